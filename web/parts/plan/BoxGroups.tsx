import type { ReactNode } from 'react';
import { boxesOfStep, type GroupsAhead } from '~/core/plan/engine/boxesOfStep';
import type { PlanStep } from '~/core/plan/plan';
import { boxWords, usesOfBox, type TrayUse } from '~/core/unit/boxWords';

/** Trays in a row of a rack unit, as seen from the front. */
const FLAT_COLUMNS = 4;

interface Props {
  readonly of: GroupsAhead | null;
  readonly step: PlanStep;
  readonly isFlat: boolean;
  /** Drawn in lines, without a ground: paper. */
  readonly isPaper?: boolean;
}

/** The boxes a step is about, tray by tray with the group each is in: as they are when the plan is done. */
export function BoxGroups({ of, step, isFlat, isPaper = false }: Props): ReactNode {
  const boxes = of ? boxesOfStep(of, step) : [];
  if (!of || boxes.length === 0) return null;
  return (
    <div className="mt-4 grid max-w-[640px] gap-4" data-box-groups={boxes.length}>
      {boxes.map((box) => (
        <figure key={box.name} aria-label={`Groups of ${box.name}`}>
          <ol
            className={`grid w-fit max-w-full gap-0.5 ${isPaper ? 'border border-black p-0.5' : 'bg-case p-1.5'}`}
            style={{
              gridTemplateColumns: `repeat(${String(isFlat ? FLAT_COLUMNS : Math.min(box.bays.length, 12))}, minmax(0, 44px))`,
            }}
            aria-hidden
          >
            {usesOfBox(of, box, of.shown).map((use) => (
              <Tray key={use.bay} of={use} isPaper={isPaper} />
            ))}
          </ol>
          <figcaption className="mt-1">
            {of.enclosures.length > 1 && <strong>{box.name}: </strong>}
            {boxWords(of, box, of.shown)}
          </figcaption>
        </figure>
      ))}
    </div>
  );
}

/** The tray's own number, and the number of its group; every other group on a darker ground, so that borders are seen. */
function Tray({ of: { tray, group, use }, isPaper }: { readonly of: TrayUse; readonly isPaper: boolean }): ReactNode {
  const isOdd = group !== undefined && group % 2 === 1;
  const paper = {
    group: isOdd ? 'border-2 border-black' : 'border border-black',
    spare: 'border-2 border-double border-black',
    idle: 'border border-dashed border-black',
    empty: 'border border-dotted border-black',
  }[use];
  const screen = {
    group: isOdd ? 'bg-chosen text-ink' : 'bg-tray text-tray-ink',
    spare: 'border border-on-side text-on-side',
    idle: 'border border-dashed border-on-side text-on-side',
    empty: 'border border-dashed border-case-line text-on-side-muted',
  }[use];
  return (
    <li
      className={`flex min-h-9 flex-col items-center justify-between px-0.5 py-0.5 text-xs ${isPaper ? paper : screen}`}
    >
      <span>{tray}</span>
      <span className="text-base leading-none font-bold">
        {group === undefined ? { spare: 'sp', idle: '–', empty: '', group: '' }[use] : String(group + 1)}
      </span>
    </li>
  );
}
