import { isSameSerial, serialKey } from '../drive/serial';
import type { StatedUnitEvent } from '../../schemas/unitEvent';
import { membersOf, poolsOf, type UnitState } from '../unit/state';
import type { Contradiction } from './compareObservation';
import type { Observation } from './observation';

/** What comes of what a unit says of itself: what is recorded on its word, and what a person has to look at. */
export interface Believed {
  readonly kind: 'believed';
  readonly certain: readonly Contradiction[];
  readonly doubtful: readonly Contradiction[];
  /** What it says: for the next look, at which it is no news. */
  readonly saying: readonly string[];
}

/** On its own word: what lowers a margin is told at once, and what a unit alone can know of its work and its parts. */
const CERTAIN: ReadonlySet<Contradiction['code']> = new Set([
  'failed',
  'sick',
  'pool-stopped',
  'part-lost',
  'part-back',
  'progress',
]);
/** The same, unless hands are at work by a plan, in which such a thing is a step of its own. */
const CERTAIN_WITHOUT_PLAN: ReadonlySet<Contradiction['code']> = new Set(['work-begun', 'work-done', 'pool-back']);

/**
 * Parts what a unit's word settles from what a person has to look at. Nothing is believed twice: what was on record when it
 * said so before, and was taken back or cleared by somebody since, is for a person, for as long as it goes on saying it.
 *
 * @param saying what it said at the look before
 */
export function believe(
  unit: UnitState,
  seen: Observation,
  found: readonly Contradiction[],
  saying: readonly string[],
): Believed {
  const hasPlan = Object.keys(unit.plans).length > 0;
  const before = new Set(saying);
  const isCertain = (one: Contradiction): boolean =>
    one.events.length > 0 &&
    (CERTAIN.has(one.code) || (!hasPlan && CERTAIN_WITHOUT_PLAN.has(one.code))) &&
    !one.events.some((event) => before.has(keyOf(event) ?? ''));
  const certain = found.filter(isCertain);
  return Object.freeze({
    kind: 'believed',
    certain,
    doubtful: found.filter((one) => !isCertain(one)),
    saying: sayings(unit, seen),
  });
}

/** What is remembered of an event that a person may see otherwise. */
function keyOf(event: StatedUnitEvent): string | undefined {
  if (event.kind === 'drive-failed') return `failed ${serialKey(event.serial)}`;
  if (event.kind === 'drive-suspected') return `sick ${serialKey(event.serial)}`;
  if (event.kind === 'pool-stopped') return `stopped ${event.pool}`;
  if (event.kind === 'part-lost') return `${event.part} ${event.name}`;
  return event.kind === 'enclosure-lost' ? `enclosure ${event.enclosure}` : undefined;
}

function sayings(unit: UnitState, { bays, parts = [], pools = [] }: Observation): string[] {
  return [
    ...bays.flatMap(({ state, serial }) =>
      serial !== undefined && (state === 'failed' || state === 'sick') ? [`${state} ${serialKey(serial)}`] : [],
    ),
    ...poolsOf(unit)
      .filter((pool) =>
        pools.some(
          ({ isStopped, serials }) =>
            isStopped === true && membersOf(pool).some((member) => serials.some((one) => isSameSerial(one, member))),
        ),
      )
      .map(({ id }) => `stopped ${id}`),
    ...parts.flatMap(({ part, name, isLost }) => (isLost ? [`${part} ${name}`] : [])),
  ];
}
