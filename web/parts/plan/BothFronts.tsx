import { MoveRight } from 'lucide-react';
import { Fragment, type ReactNode } from 'react';
import type { PlanStep } from '~/core/plan/plan';
import { frontOf } from '~/core/unit/card';
import type { UnitState } from '~/core/unit/state';
import { UnitFront } from '~/web/parts/unit/UnitFront';

interface Props {
  /** The two units, the old one first. */
  readonly units: readonly UnitState[];
  readonly step: PlanStep;
}

/** What is done with hands at the units, or seen from their fronts. */
const SEEN_AT: ReadonlySet<string> = new Set([
  'switch-power',
  'pull-drive',
  'fit-drive',
  'carry-in',
  'arrive',
  'unpack',
  'start-job',
  'finish-job',
]);

/** Both units from the front as they stand now, and what is in the hand between them. */
export function BothFronts({ units, step }: Props): ReactNode {
  if (!step.does.some(({ kind }) => SEEN_AT.has(kind))) return null;
  const inHand = units.flatMap(({ packed }) =>
    packed ? Object.keys(packed.bays).filter((serial) => !units.some(({ drives }) => drives[serial]?.bay != null)) : [],
  );
  return (
    <div
      className="mt-4 flex max-w-full flex-wrap items-end gap-4"
      data-both-fronts
      role="group"
      aria-label={units.map(({ name }) => name).join(' and ')}
    >
      {units.map((unit, i) => (
        <Fragment key={unit.name}>
          {i > 0 && (
            <p className="flex items-center gap-2 self-center text-muted" data-in-hand={inHand.length}>
              <MoveRight size={20} aria-hidden />
              {inHand.length > 0 && (
                <strong className="text-ink">
                  {inHand.length} {inHand.length === 1 ? 'drive' : 'drives'} in hand
                </strong>
              )}
            </p>
          )}
          {/* Where it is wider than the screen, the keyboard scrolls it. */}
          <figure
            className="min-w-0 max-w-full overflow-x-auto"
            tabIndex={0}
            aria-label={`${unit.name} from the front`}
          >
            <UnitFront unit={frontOf(unit)} size="shelf" />
            <figcaption className="mt-1 text-sm">
              <strong>{unit.name}</strong>, {unit.power === 'on' ? 'on' : 'off'}
            </figcaption>
          </figure>
        </Fragment>
      ))}
    </div>
  );
}
