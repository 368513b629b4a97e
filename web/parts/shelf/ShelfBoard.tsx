import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { CardOnShelf } from '~/service/units/readShelf';
import { wholePercent } from '~/core/quantity/formatPercent';
import { FillBar } from '~/web/parts/unit/FillBar';
import { StandingMark } from '~/web/parts/unit/StandingMark';
import { UnitFront } from '~/web/parts/unit/UnitFront';

/** One place as it looks: its units on a board, a label hanging from the board below each. */
export function ShelfBoard({
  place,
  units,
}: {
  readonly place: string;
  readonly units: readonly CardOnShelf[];
}): ReactNode {
  const drives = units.reduce((sum, { card }) => sum + card.drives, 0);
  return (
    <section aria-label={place}>
      <h2 className="mb-1.5 text-lg">
        {place}
        <span className="ml-3 text-base font-normal text-muted">
          {units.length === 1 ? '1 unit' : `${String(units.length)} units`} ·{' '}
          {drives === 1 ? '1 drive' : `${String(drives)} drives`}
        </span>
      </h2>
      <ul className="flex flex-wrap gap-y-4">
        {units.map((unit) => (
          <li key={unit.id} className="flex flex-col">
            <Link href={`/units/${unit.id}`} className="flex flex-1 flex-col focus-visible:outline-offset-[-2px]">
              <span className="flex flex-1 items-end px-3.5" aria-hidden>
                <UnitFront unit={unit.card.front} />
              </span>
              <span className="board block h-[9px]" />
              <span className="px-3.5">
                <ShelfLabel unit={unit} />
              </span>
            </Link>
          </li>
        ))}
        <li aria-hidden className="flex min-w-4 flex-1 flex-col">
          <span className="flex-1" />
          <span className="board block h-[9px]" />
          <span className="h-[78px]" />
        </li>
      </ul>
    </section>
  );
}

/** The shelf-edge label: name, fill, and how many more drives may fail. */
function ShelfLabel({ unit: { card, used } }: { readonly unit: CardOnShelf }): ReactNode {
  const { pools, front, standing, words, name, profileName } = card;
  const shown = pools.reduce((sum, { shownBytes }) => sum + shownBytes, 0);
  const inUse = pools.reduce((sum, { id }) => sum + (used[id] ?? 0), 0);
  const isRead = pools.some(({ id }) => used[id] !== undefined);
  const bays = front.enclosures.map((enclosure) => String(enclosure.bays.length)).join(' + ');
  return (
    <span className="flex h-[78px] min-w-[172px] flex-col justify-between border border-t-0 border-line bg-surface px-2.5 py-1.5">
      <span className="flex justify-between gap-3">
        <span className="font-bold">{name}</span>
        <span className="text-sm text-muted">{front.enclosures.length > 1 ? `${bays} bays` : `${bays}-bay`}</span>
      </span>
      {isRead && <FillBar share={inUse / shown} />}
      <span className="text-sm text-muted">
        {pools.length === 0
          ? `${profileName.split(',')[0] ?? ''}`
          : isRead
            ? `${String(wholePercent(inUse / shown))} % of ${formatBytes(shown, 'binary')}`
            : `${formatBytes(shown, 'binary')}, fill not read yet`}
      </span>
      <StandingMark standing={standing}>{words}</StandingMark>
    </span>
  );
}
