'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { WatchNetworks } from '~/service/watch/networkOperations';
import { AreaField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import { Moment } from '~/web/parts/unit/Moment';

const linesOf = (text: string): string[] =>
  text
    .split(/[\s,;]+/)
    .map((line) => line.trim())
    .filter((line) => line !== '');

/** Where units may be asked besides the private networks: an owner's word. */
export function Networks({ of: { networks, byMachine } }: { readonly of: WatchNetworks }): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: { networks: networks.map(({ network }) => network).join('\n') },
    then: 'sent',
    sends: 'PUT /watch-networks',
    asks: (values) => ({ body: { networks: linesOf(values.networks) } }),
    done: ({ networks: now }) => {
      tell(now.length === 0 ? 'Units are asked in private networks only.' : 'Units may be asked there as well.');
      router.refresh();
    },
  });
  return (
    <section aria-label="Where units may be asked">
      <h2 className="mb-1 text-lg">Where units may be asked</h2>
      <p className="mb-3 max-w-[760px] text-muted">
        In private networks (10…, 172.16 to 172.31…, 192.168…, fd…), and in none besides unless it is written here. A
        unit’s password goes to whoever answers at its address: allow only what is your own.
        {byMachine.length > 0 && ` Whoever runs this machine allows ${byMachine.join(', ')} as well.`}
      </p>
      <Sheet of={sheet} sends="Save the networks" look="plain" className="border border-line bg-surface p-4">
        <AreaField
          name="networks"
          label="Networks besides"
          rows={3}
          hint="One a line, as 203.0.113.0/24 or 2001:db8::/48. Empty means none."
        />
      </Sheet>
      {networks.length > 0 && (
        <ul className="mt-2 text-sm text-muted">
          {networks.map(({ network, allowedBy, allowedAt }) => (
            <li key={network}>
              {network}: allowed by {allowedBy}, <Moment at={allowedAt} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
