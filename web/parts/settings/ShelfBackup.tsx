import type { ReactNode } from 'react';
import { daysBetween } from '~/core/quantity/days';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { Settings } from '~/service/settings/readSettings';
import { Notice } from '~/web/parts/form/Notice';
import { Moment } from '~/web/parts/unit/Moment';

/** A night may be missed; two are a fault. */
const LATE_DAYS = 2;

/** The last good backup of the shelf itself: known, late, or not known of. */
export function ShelfBackup({ last, now }: { readonly last: Settings['lastBackup']; readonly now: string }): ReactNode {
  const days = last === null ? 0 : Math.floor(daysBetween(last.at, now));
  return (
    <section aria-label="Backups of this shelf" data-shelf-backup>
      <h2 className="mb-3 text-lg">Backups of this shelf</h2>
      {last === null ? (
        <p className="border border-dashed border-muted p-4">
          No backup is known of: none was made here since this is counted. Run{' '}
          <code className="font-mono">bin/backup</code> on this server, or switch its nightly timer on
          (docs/operating.md), and keep the files on another machine.
        </p>
      ) : (
        <div className="grid gap-3 border border-line bg-surface p-4">
          <p>
            The last good one was made <Moment at={last.at} relative /> (<Moment at={last.at} />
            ): {last.entries} entries, {formatBytes(last.bytes)}, read back to its end.
          </p>
          {days >= LATE_DAYS && (
            <Notice title={`That is ${String(days)} days ago.`}>
              What was recorded since is in no backup. Run <code className="font-mono">bin/backup</code> on this server,
              and look why the nightly timer did not.
            </Notice>
          )}
        </div>
      )}
    </section>
  );
}
