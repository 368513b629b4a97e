import { bayName } from '../unit/bayName';
import { compareBays } from '../quantity/bayOrder';
import { dayOf, startOfDay } from '../quantity/days';
import { formatBytes } from '../quantity/formatBytes';
import { everyWords } from '../record/eventWords';
import { poolOfDrive } from '../unit/state';
import { frozen } from '../value/frozen';
import { ageNeeds, checkNeeds, copiesNeeds } from './careNeeds';
import { need, sentence, type NeedForHands, type WatchedUnit } from './need';
import { cacheNeeds } from './cacheNeeds';
import { poolNeeds } from './poolNeeds';
import { fittingInDrawers, openDemands, type DrawerDrive } from './spareCoverage';
import { upkeepOf } from './upkeepOf';
import { watchNeeds } from './watchNeeds';
import { wearNeeds } from './wearNeeds';
import { isDown } from '../unit/margin';

/** What needs hands at a moment, over all units, most urgent first. */
export function needsHands(
  units: readonly WatchedUnit[],
  drawers: readonly DrawerDrive[],
  now: string,
): NeedForHands[] {
  const holding = units
    .flatMap(needsOf)
    .filter(({ from, until }) => from <= now && (until === undefined || now < until));
  return byUrgency(holding.flatMap((one) => againstDrawers(one, drawers)));
}

/** A need that drawers may settle: nothing when one at the same site does; otherwise about the bays that are left, with where the nearest lies. */
export function againstDrawers(one: NeedForHands, drawers: readonly DrawerDrive[]): NeedForHands[] {
  if (one.unless === undefined) return [one];
  const open = one.unless.filter(({ demand }) =>
    fittingInDrawers(demand, drawers).every(({ reach }) => reach === 'other-site'),
  );
  if (open.length === 0) return [];
  const bays = open.flatMap((demand) => demand.bays).sort(compareBays);
  const title = `${one.title} ${bays.length === 1 ? `bay ${bays[0] ?? ''}` : `${String(bays.length)} bays`}`;
  // Each bay by its own need, the hardest to find first.
  const sorted = [...open].sort((a, b) => b.demand.neededBytes - a.demand.neededBytes);
  const told = sorted.slice(0, MOST_DEMANDS).map(({ demand, bays: its }) => {
    const named = its.length > 6 ? `${its.slice(0, 5).join(', ')} and ${String(its.length - 5)} more` : its.join(', ');
    const far = fittingInDrawers(demand, drawers)[0];
    const nearest = far ? `The nearest, ${far.serial}, lies at ${far.place?.site ?? ''}.` : 'No drawer anywhere does.';
    return `Bay ${named}: no drawer at ${demand.place.site} holds a drive of ${formatBytes(demand.neededBytes)} or more that fits. ${nearest}`;
  });
  const more = sorted.length > told.length ? [`And for ${String(sorted.length - told.length)} smaller sizes.`] : [];
  return [{ ...one, title, reason: [...told, ...more].join(' ') }];
}

/** More sizes than this are no sentence. */
const MOST_DEMANDS = 3;

/** The most urgent first; of equals, by title and reason, so that the order never depends on how they came. */
export function byUrgency(needs: readonly NeedForHands[]): NeedForHands[] {
  return [...needs].sort(
    (a, b) => a.urgency - b.urgency || (a.title < b.title ? -1 : a.title > b.title ? 1 : a.reason < b.reason ? -1 : 1),
  );
}

/**
 * Everything that needs hands at one unit, now or later, each with the moment from which on it does. Computed from state
 * and readings alone, without a clock, so that it can be kept beside the state and asked for by time.
 */
export function needsOf(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  if (state.retired) return [];
  return frozen([
    ...poolNeeds(unit),
    ...cacheNeeds(unit),
    ...boxNeeds(unit),
    ...watchNeeds(unit),
    ...copiesNeeds(unit),
    ...checkNeeds(unit),
    ...ageNeeds(unit),
    ...wearNeeds(unit),
    ...spareNeeds(unit),
    ...upkeepOf(state).flatMap((task) =>
      task.due === null
        ? []
        : [
            need(unit, 'upkeep-due', 40, `${state.name} · ${task.title}`, `Due on ${task.due}, ${everyWords(task)}.`, {
              from: startOfDay(task.due),
            }),
          ],
    ),
    // What a plan says next was right for a pool that is not lost.
    ...Object.values(state.plans).flatMap(({ id, job, title, done, of, serials, ledFrom }) =>
      // A plan over two units is one need.
      ledFrom !== undefined ||
      (job !== 'rescue' &&
        serials.some((serial) => {
          const pool = poolOfDrive(state, serial);
          return pool !== undefined && isDown(pool);
        }))
        ? []
        : need(unit, 'plan-open', 18, `${state.name} · ${title}`, `${String(done)} of ${String(of)} steps are done.`, {
            plan: id,
          }),
    ),
  ]) as NeedForHands[];
}

function spareNeeds(unit: WatchedUnit): NeedForHands[] {
  const unless = openDemands(unit.state);
  return unless.length === 0
    ? []
    : [{ ...need(unit, 'no-spare', 36, `${unit.state.name} · no spare for`, ''), unless }];
}
/** Drives that were packed, and that no plan leads any further. */
function onTheWay(unit: WatchedUnit): NeedForHands[] {
  const { name, packed, plans } = unit.state;
  if (!packed || Object.values(plans).some(({ job }) => job === 'move' || job === 'carry-back')) return [];
  const count = Object.keys(packed.bays).length;
  return [
    need(
      unit,
      'on-the-way',
      6,
      `${name} · its ${count === 1 ? 'drive is' : `${String(count)} drives are`} on the way to another unit`,
      `Since ${dayOf(packed.at)}, and no plan leads on. Erase nothing, fit them nowhere else: they go back into the bays they had.`,
    ),
  ];
}

function boxNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  const { counted } = state;
  return [
    ...state.away.map((name) =>
      need(
        unit,
        'enclosure-away',
        5,
        `${state.name} · ${name} has dropped out`,
        'Check its cable and both its supplies before touching a drive. Pull nothing, and do not answer yes to anything that erases.',
      ),
    ),
    ...onTheWay(unit),
    ...state.parts.map(({ part, name, note, since }) =>
      need(
        unit,
        'part-lost',
        15,
        `${state.name} · ${part} ${name} is out`,
        `Since ${dayOf(since)}. ${note === undefined ? 'Have it replaced; the data is not touched by it.' : sentence(note)}`,
      ),
    ),
    ...(counted && counted.seen < counted.expected
      ? [
          need(
            unit,
            'drives-unseen',
            16,
            `${state.name} · ${String(counted.seen)} of ${String(counted.expected)} drives seen${counted.enclosure === undefined ? '' : ` in ${counted.enclosure}`}`,
            `Counted on ${dayOf(counted.at)}. One that has dropped out is not always marked: compare the unit’s page with the record, bay by bay.`,
          ),
        ]
      : []),
    ...state.signs.map(({ note, since, bay }) =>
      need(
        unit,
        'sign-open',
        22,
        `${state.name} · ${bay === undefined ? '' : `${bayName(state, bay)}: `}${note}`,
        `Seen on ${dayOf(since)}. Look up what it means on this unit, and settle it.`,
      ),
    ),
  ];
}
