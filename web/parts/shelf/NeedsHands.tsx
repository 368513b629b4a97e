import type { ReactNode } from 'react';
import type { NeedForHands } from '~/core/upkeep/needsHands';
import type { Standing } from '~/core/unit/margin';
import { ButtonLink } from '~/web/parts/form/Button';
import { StandingMark } from '~/web/parts/unit/StandingMark';

const MARKS: Record<NeedForHands['code'], Standing> = { 'data-lost': 'lost', 'member-failed': 'thinned', 'sign-growing': 'watch', 'near-full': 'watch' };

/** What needs a person, most urgent first, each with its reason and the way to it. */
export function NeedsHands({ needs, nameOf }: { readonly needs: readonly NeedForHands[]; readonly nameOf: (unit: string) => string }): ReactNode {
  return (
    <aside aria-label="Needs hands" className="w-full shrink-0 border-line bg-surface p-4 max-lg:border-t lg:w-[312px] lg:overflow-y-auto lg:border-l">
      <h2 className="flex justify-between text-lg">
        Needs hands <span className="font-normal text-muted">{needs.length}</span>
      </h2>
      {needs.length === 0 && <p className="mt-2 text-muted">Nothing does. Every member is well and no pool is past the line people plan to.</p>}
      <ul>
        {needs.map((need) => (
          <li key={need.unit + need.title} className="border-b border-line py-3 last:border-0">
            <h3>
              <StandingMark standing={MARKS[need.code]}>{need.title}</StandingMark>
            </h3>
            <p className="mt-1 mb-2">{need.reason}</p>
            <ButtonLink href={`/units/${need.unit}`}>Look at {nameOf(need.unit)}</ButtonLink>
          </li>
        ))}
      </ul>
    </aside>
  );
}
