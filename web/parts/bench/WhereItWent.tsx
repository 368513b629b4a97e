import type { ReactNode } from 'react';
import type { Layout } from '~/core/layout/layout';
import { formatBytes } from '~/core/quantity/formatBytes';
import { onUnitPage } from '~/core/quantity/onUnitPage';
import type { Profile } from '~/core/platform/profile';

/** From the number on the boxes to the number on the unit's page, to scale. */
export function WhereItWent({ layout, profile }: { readonly layout: Layout; readonly profile: Profile }): ReactNode {
  const {
    rawBytes,
    usableBytes,
    protectionBytes,
    unusedBytes,
    systemBytes,
    poolMetadataBytes,
    shownBytes,
    fileSystemReserveBytes,
  } = layout;
  const parts = [
    { name: 'usable', bytes: usableBytes, look: 'bg-action text-on-action' },
    { name: 'protection', bytes: protectionBytes, look: 'bg-muted text-surface' },
    {
      name: 'unused',
      bytes: unusedBytes,
      look: 'bg-surface text-ink outline-1 -outline-offset-1 outline-dashed outline-muted',
    },
    { name: 'system', bytes: systemBytes, look: 'bg-[var(--board-to)] text-white' },
  ].filter(({ bytes }) => bytes > 0);
  return (
    <section aria-label="Where the space went">
      <h3 className="mb-1.5">Where {formatBytes(rawBytes)} went</h3>
      <div className="keeps-colour flex h-6 w-full text-xs leading-6" aria-hidden>
        {parts.map(({ name, bytes, look }) => (
          <div
            key={name}
            className={`overflow-hidden px-1.5 whitespace-nowrap ${look}`}
            style={{ width: `${String((bytes / rawBytes) * 100)}%` }}
          >
            {bytes / rawBytes > 0.08 && `${formatBytes(bytes)} ${name}`}
          </div>
        ))}
      </div>
      <p className="mt-1.5 text-sm text-muted">
        {parts.map(({ name, bytes }) => `${formatBytes(bytes, 'decimal', 2)} ${name}`).join(' + ')}. Nothing is missing:{' '}
        {formatBytes(usableBytes, 'decimal', 2)} counted in thousands is {formatBytes(usableBytes, 'binary', 2)} counted
        in 1024s
        {poolMetadataBytes > 0 && `, less ${formatBytes(poolMetadataBytes, 'binary')} the pool keeps for itself`}. The
        unit’s page shows {onUnitPage(shownBytes, profile.unitPage)}
        {fileSystemReserveBytes > 0 &&
          `; its file system holds back ${formatBytes(fileSystemReserveBytes, 'binary')} of that`}
        .
      </p>
    </section>
  );
}
