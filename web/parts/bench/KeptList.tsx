'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { KeptComparison } from '~/service/bench/comparisons';
import { Button } from '~/web/parts/form/Button';
import { api } from '~/web/parts/form/api';
import { Moment } from '~/web/parts/unit/Moment';
import { tell, tellFault } from '~/web/parts/tell/tell';

/** Comparisons that were kept under a name, to open again. */
export function KeptList({
  kept,
  mayStore,
}: {
  readonly kept: readonly KeptComparison[];
  readonly mayStore: boolean;
}): ReactNode {
  const router = useRouter();
  if (kept.length === 0) return null;
  const forget = async ({ id, comparison }: KeptComparison): Promise<void> => {
    const sent = await api('DELETE /comparisons/{id}', { id });
    if (sent.kind === 'refused') tellFault(sent.sentence);
    else tell(`“${comparison.name}” is forgotten.`);
    router.refresh();
  };
  return (
    <section aria-label="Kept comparisons">
      <h2 className="mb-1 text-lg">Kept comparisons</h2>
      <ul className="border border-line bg-surface">
        {kept.map((one) => (
          <li
            key={one.id}
            className="flex items-center justify-between gap-3 border-t border-line px-3 py-1.5 first:border-0"
          >
            <span>
              {/* A whole new page: the bench begins with another sheet. */}
              <a
                href={`/bench?${one.comparison.address}&kept=${one.id}`}
                className="font-semibold text-action underline"
              >
                {one.comparison.name}
              </a>
              <span className="block text-sm text-muted">
                {one.keptBy}, <Moment at={one.keptAt} />
              </span>
            </span>
            {mayStore && (
              <Button onClick={() => void forget(one)} aria-label={`Forget ${one.comparison.name}`}>
                Forget
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
