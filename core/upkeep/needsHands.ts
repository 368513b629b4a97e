import { compareBays } from '../quantity/bayOrder';
import { dayOf, daysAfter, startOfDay } from '../quantity/days';
import { formatBytes } from '../quantity/formatBytes';
import { wholePercent } from '../quantity/formatPercent';
import { formatRate } from '../quantity/formatRate';
import { frozen } from '../value/frozen';
import { fullMarginOfPool, marginOfPool } from '../unit/margin';
import { membersOf, poolOfDrive, type Pool, type UnitState } from '../unit/state';
import { copyTroubles, poolsWithoutDataSet, type CopyTrouble } from './copyNeeds';
import { everyWords } from '../record/eventWords';
import { isFitting, openDemands, reachOf, type DrawerDrive, type OpenDemand, type SpareDemand } from './spareCoverage';
import { upkeepOf } from './upkeepOf';

export type NeedCode =
  | 'data-lost'
  | 'enclosure-away'
  | 'member-failed'
  | 'no-margin'
  | 'part-lost'
  | 'drives-unseen'
  | 'plan-open'
  | 'sign-growing'
  | 'sign-open'
  | CopyTrouble['code']
  | 'slow'
  | 'near-full'
  | 'thin-overcommitted'
  | 'factory-password'
  | 'alarm-mail'
  | 'no-spare'
  | 'upkeep-due'
  | 'warranty-ending'
  | 'firmware-old'
  | 'drive-old'
  | 'no-baseline';

/** Something a person has to do, with the reason; most urgent first by `urgency`. */
export interface NeedForHands {
  readonly kind: 'need-for-hands';
  readonly unit: string;
  readonly code: NeedCode;
  readonly title: string;
  readonly reason: string;
  /** Lower is more urgent. */
  readonly urgency: number;
  /** It holds from this moment on; the past for what holds already. */
  readonly from: string;
  /** It no longer holds from this moment on. */
  readonly until?: string;
  /** The plan it is about, when there is one. */
  readonly plan?: string;
  /** The drive it is about. */
  readonly serial?: string;
  /** It holds only as long as drawers within reach do not meet these. */
  readonly unless?: readonly OpenDemand[];
}

export interface WatchedUnit {
  readonly id: string;
  readonly state: UnitState;
  /** Bytes used by pool, as last read. */
  readonly used: Readonly<Record<string, number>>;
  /** Error counts of its drives that have grown. */
  readonly growing?: readonly GrowingCount[];
}

/** A count of errors that is higher than it was a week before. */
export interface GrowingCount {
  readonly serial: string;
  readonly metric: ErrorMetric;
  readonly before: number;
  readonly beforeDay: string;
  readonly now: number;
}

/** Counts that only a drive going bad makes grow. */
export const ERROR_METRICS = ['reallocated-sectors', 'pending-sectors', 'read-errors'] as const;
export type ErrorMetric = (typeof ERROR_METRICS)[number];

const ERROR_WORDS: Readonly<Record<ErrorMetric, string>> = {
  'reallocated-sectors': 'reallocated sectors',
  'pending-sectors': 'sectors waiting to be reallocated',
  'read-errors': 'read errors',
};

/** People plan to 80 % of what the unit shows (common practice). */
export const FULL_LINE = 0.8;
/** Five years is a usual planning life of a drive (common practice). */
const PLANNING_LIFE_DAYS = 5 * 365.25;
const WARRANTY_NOTICE_DAYS = 60;
const FIRMWARE_DAYS = 365;
/** Slower than this share of the speed when new is worth looking into (common practice). */
const SLOW_SHARE = 0.7;

/** What needs hands at a moment, over all units, most urgent first. */
export function needsHands(units: readonly WatchedUnit[], drawers: readonly DrawerDrive[], now: string): NeedForHands[] {
  const holding = units.flatMap(needsOf).filter(({ from, until }) => from <= now && (until === undefined || now < until));
  return byUrgency(holding.flatMap((one) => againstDrawers(one, drawers)));
}

/** A need that drawers may settle: nothing when one at the same site does; otherwise about the bays that are left, with where the nearest lies. */
export function againstDrawers(one: NeedForHands, drawers: readonly DrawerDrive[]): NeedForHands[] {
  if (one.unless === undefined) return [one];
  const fittingFor = (demand: SpareDemand): DrawerDrive[] => drawers.filter((spare) => isFitting(demand, spare));
  const open = one.unless.filter(({ demand }) => !fittingFor(demand).some(({ place }) => reachOf(demand.place, place) !== 'other-site'));
  const hardest = open.reduce<OpenDemand | undefined>((a, b) => (a !== undefined && a.demand.neededBytes >= b.demand.neededBytes ? a : b), undefined);
  if (!hardest) return [];
  const bays = open.flatMap((demand) => demand.bays).sort(compareBays);
  const far = fittingFor(hardest.demand)[0];
  const named = bays.length > 6 ? `${bays.slice(0, 5).join(', ')} and ${String(bays.length - 5)} more` : bays.join(', ');
  const nearest = far ? `The nearest, ${far.serial}, lies at ${far.place.site}.` : 'No drawer anywhere does.';
  const title = `${one.title} ${bays.length === 1 ? `bay ${bays[0] ?? ''}` : `${String(bays.length)} bays`}`;
  return [
    {
      ...one,
      title,
      reason: `Bay ${named}: no drawer at ${hardest.demand.place.site} holds a drive of ${formatBytes(hardest.demand.neededBytes)} or more that fits. ${nearest}`,
    },
  ];
}

export function byUrgency(needs: readonly NeedForHands[]): NeedForHands[] {
  return [...needs].sort((a, b) => a.urgency - b.urgency || (a.title < b.title ? -1 : a.title > b.title ? 1 : a.reason < b.reason ? -1 : 1));
}

/**
 * Everything that needs hands at one unit, now or later, each with the moment from which on it does. Computed from state
 * and readings alone, without a clock, so that it can be kept beside the state and asked for by time.
 */
export function needsOf(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  return frozen([
    ...Object.values(state.pools).flatMap((pool) => [...troubleOf(unit, pool), ...fullnessOf(unit, pool), ...overcommitmentOf(unit, pool)]),
    ...growthNeeds(unit),
    ...boxNeeds(unit),
    ...copiesNeeds(unit),
    ...checkNeeds(unit),
    ...ageNeeds(unit),
    ...spareNeeds(unit),
    ...upkeepOf(state).flatMap((task) =>
      task.due === null
        ? []
        : [need(unit, 'upkeep-due', 40, `${state.name} · ${task.title}`, `Due on ${task.due}, ${everyWords(task)}.`, { from: startOfDay(task.due) })],
    ),
    ...Object.values(state.plans).flatMap((run) =>
      run.ended
        ? []
        : [
            need(
              unit,
              'plan-open',
              18,
              `${state.name} · ${run.plan.title}`,
              `${String(Object.keys(run.done).length)} of ${String(run.plan.steps.length)} steps are done.`,
              { plan: run.id },
            ),
          ],
    ),
  ]) as NeedForHands[];
}

function spareNeeds(unit: WatchedUnit): NeedForHands[] {
  const unless = openDemands(unit.state);
  return unless.length === 0 ? [] : [{ ...need(unit, 'no-spare', 36, `${unit.state.name} · no spare for`, ''), unless }];
}

const ALWAYS = '1970-01-01T00:00:00.000Z';

function need(
  { id }: Pick<WatchedUnit, 'id'>,
  code: NeedCode,
  urgency: number,
  title: string,
  reason: string,
  { from = ALWAYS, until, plan, serial }: { from?: string; until?: string; plan?: string; serial?: string } = {},
): NeedForHands {
  return {
    kind: 'need-for-hands',
    unit: id,
    code,
    urgency,
    title,
    reason,
    from,
    ...(until === undefined ? {} : { until }),
    ...(plan === undefined ? {} : { plan }),
    ...(serial === undefined ? {} : { serial }),
  };
}

/** The plan under way that is about this drive. */
function planAbout({ plans }: UnitState, serial: string): { plan?: string } {
  const run = Object.values(plans).find(
    ({ ended, plan }) => ended === undefined && plan.steps.some(({ does }) => does.some((one) => 'replaces' in one && one.replaces === serial)),
  );
  return run ? { plan: run.id } : {};
}

function troubleOf(unit: WatchedUnit, pool: Pool): NeedForHands[] {
  const { state } = unit;
  const [margin, full] = [marginOfPool(pool), fullMarginOfPool(pool)];
  const place = (serial: string): string => {
    const bay = state.drives[serial]?.bay;
    return bay == null ? serial : `bay ${bay}`;
  };
  if (margin < 0) {
    return [
      need(
        unit,
        'data-lost',
        0,
        `${state.name} · ${pool.name} has lost data`,
        `Leave every drive where it is, and start and confirm nothing. ${pool.lost.join(', ')} held data that is gone from this pool.`,
      ),
    ];
  }
  const needs: NeedForHands[] = [];
  const rebuilding = Object.values(state.jobs).filter(({ task, pool: of }) => task === 'rebuild' && of === pool.id);
  const waiting = pool.missing.filter((serial) => !rebuilding.some(({ replaces }) => replaces === serial));
  for (const serial of [...waiting].sort((a, b) => compareBays(place(a), place(b)))) {
    const left = margin === 0 ? 'It can lose none until it is rebuilt.' : `It can lose ${String(margin)} more until it is rebuilt.`;
    const went = { failed: 'has failed', removed: 'was taken out', 'out-of-service': 'is out of service' }[state.drives[serial]?.condition as string];
    needs.push(
      need(
        unit,
        'member-failed',
        10 + margin,
        `${state.name} · ${place(serial)} ${went ?? 'is missing'}`,
        `${left} Replace ${serial} only, with a drive of at least ${formatBytes(state.drives[serial]?.bytes ?? 0)}.`,
        { serial, ...planAbout(state, serial) },
      ),
    );
  }
  if (margin === 0 && full > 0 && waiting.length === 0) {
    needs.push(
      need(
        unit,
        'no-margin',
        12,
        `${state.name} · can lose none`,
        `${pool.name} is being rebuilt. Pull nothing, switch nothing off, and check that a recent copy of it is elsewhere.`,
      ),
    );
  }
  for (const serial of membersOf(pool)) {
    const drive = state.drives[serial];
    if (drive?.condition !== 'suspected' || drive.bay === null) continue;
    needs.push(
      need(
        unit,
        'sign-growing',
        20 + full,
        `${state.name} · bay ${drive.bay} is showing signs`,
        `${sentence(drive.note ?? 'noted without a reason')} Have a fitting drive at hand.`,
        { serial },
      ),
    );
  }
  return needs;
}

/** Error counts that grow on a drive nobody has said anything of yet. */
function growthNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state, growing = [] } = unit;
  return growing.flatMap(({ serial, metric, before, beforeDay, now }) => {
    const drive = state.drives[serial];
    if (drive?.bay == null || drive.condition !== 'well') return [];
    return [
      need(
        unit,
        'sign-growing',
        21,
        `${state.name} · bay ${drive.bay}: ${ERROR_WORDS[metric]} grow`,
        `From ${String(before)} on ${beforeDay} to ${String(now)}. A count that grows matters more than its height: have a fitting drive at hand, and record what you see.`,
        { serial },
      ),
    ];
  });
}

function fullnessOf(unit: WatchedUnit, pool: Pool): NeedForHands[] {
  const used = unit.used[pool.id] ?? 0;
  const share = used / pool.shownBytes;
  if (!(share >= FULL_LINE)) return [];
  const left = formatBytes(Math.max(0, pool.shownBytes - used), 'binary');
  return [
    need(
      unit,
      'near-full',
      30 - share,
      `${unit.state.name} · ${String(wholePercent(share))} % full`,
      `${pool.name} is past the 80 % people plan to. ${left} are left.`,
    ),
  ];
}

/** Thin volumes that promise more than the pool holds, once the pool is more than half full of it. */
function overcommitmentOf(unit: WatchedUnit, pool: Pool): NeedForHands[] {
  const promised = Object.values(unit.state.volumes)
    .filter((volume) => volume.pool === pool.id)
    .reduce((sum, { bytes }) => sum + bytes, 0);
  if (promised <= pool.shownBytes || (unit.used[pool.id] ?? 0) < pool.shownBytes / 2) return [];
  return [
    need(
      unit,
      'thin-overcommitted',
      31,
      `${unit.state.name} · volumes promise more than there is`,
      `The volumes of ${pool.name} are shown with ${formatBytes(promised, 'binary')} together; behind them are ${formatBytes(pool.shownBytes, 'binary')}. The pool fills while the volumes look half empty.`,
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
            `${state.name} · ${String(counted.seen)} of ${String(counted.expected)} drives seen`,
            `Counted on ${dayOf(counted.at)}. One that has dropped out is not always marked: compare the unit’s page with the record, bay by bay.`,
          ),
        ]
      : []),
    ...state.signs.map(({ note, since, bay }) =>
      need(
        unit,
        'sign-open',
        22,
        `${state.name} · ${bay === undefined ? '' : `bay ${bay}: `}${note}`,
        `Seen on ${dayOf(since)}. Look up what it means on this unit, and settle it.`,
      ),
    ),
  ];
}

const COPY_URGENCY: Readonly<Record<CopyTrouble['code'], number>> = {
  'copy-failed': 24,
  'no-copy': 25,
  'restore-failed': 25.5,
  'copy-old': 26,
  'only-mirrors': 27,
  'copy-target-full': 28,
  'never-restored': 33,
  'none-off-site': 33.5,
};

const COPY_TITLES: Readonly<Record<CopyTrouble['code'], string>> = {
  'copy-failed': 'a copy has failed',
  'no-copy': 'no copy',
  'restore-failed': 'a restore did not work',
  'copy-old': 'a copy is old',
  'only-mirrors': 'mirrors only',
  'copy-target-full': 'a copy’s target is nearly full',
  'never-restored': 'a restore is to be tried',
  'none-off-site': 'no copy off site',
};

function copiesNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  const troubles = Object.values(state.dataSets).flatMap((set) => copyTroubles(set, state.registeredAt));
  const unknown = poolsWithoutDataSet(state).map((name): CopyTrouble => ({
    code: 'no-copy',
    from: ALWAYS,
    reason: `Nobody has written down where the copies of ${name} are. A pool is not a backup: fire, theft and deletion take all members at once.`,
  }));
  return [...troubles, ...unknown].map(({ code, reason, from }) =>
    need(unit, code, COPY_URGENCY[code], `${state.name} · ${COPY_TITLES[code]}`, reason, { from }),
  );
}

function checkNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  if (Object.keys(state.pools).length === 0) return [];
  const needs: NeedForHands[] = [];
  if (state.profile.software.factoryAccount !== 'none' && state.confirmed['factory-password-changed'] === undefined)
    needs.push(
      need(
        unit,
        'factory-password',
        34,
        `${state.name} · factory password`,
        'Nobody has confirmed that the factory account was changed. Its name and password are in every manual.',
      ),
    );
  if (state.confirmed['alarm-mail-tested'] === undefined && state.upkeepDone['alarm-mail'] === undefined)
    needs.push(
      need(
        unit,
        'alarm-mail',
        35,
        `${state.name} · alarm mail never tested`,
        'Send a test alarm from the unit’s page and see it arrive: otherwise nobody hears of a failed drive.',
      ),
    );
  const { baseline, last } = state.speed;
  if (!baseline)
    needs.push(
      need(
        unit,
        'no-baseline',
        55,
        `${state.name} · speed never measured`,
        'Copy one large file each way and write the speeds down, to know later what slow is.',
      ),
    );
  else if (last && (last.readBytesPerSecond < SLOW_SHARE * baseline.readBytesPerSecond || last.writeBytesPerSecond < SLOW_SHARE * baseline.writeBytesPerSecond))
    needs.push(
      need(
        unit,
        'slow',
        28,
        `${state.name} · slower than when new`,
        `Reads ${formatRate(last.readBytesPerSecond)}, writes ${formatRate(last.writeBytesPerSecond)}; when new ${formatRate(baseline.readBytesPerSecond)} and ${formatRate(baseline.writeBytesPerSecond)}. A drive that retries, a check in the background or a full pool are the usual causes.`,
      ),
    );
  return needs;
}

function ageNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  const needs: NeedForHands[] = [];
  const standing = Object.values(state.drives).filter(({ bay, serial }) => bay !== null && poolOfDrive(state, serial));
  const ends = new Map<string, string[]>();
  for (const { warrantyUntil, serial } of standing) if (warrantyUntil !== undefined) ends.set(warrantyUntil, [...(ends.get(warrantyUntil) ?? []), serial]);
  if (state.details.warrantyUntil != null) ends.set(state.details.warrantyUntil, [...(ends.get(state.details.warrantyUntil) ?? []), 'the unit itself']);
  for (const [day, what] of ends)
    needs.push(
      need(
        unit,
        'warranty-ending',
        45,
        `${state.name} · warranty ends ${day}`,
        `${what.length > 3 ? `${String(what.length)} drives` : what.join(', ')}. Test now what is under it, and claim before that day.`,
        { from: daysAfter(startOfDay(day), -WARRANTY_NOTICE_DAYS), until: daysAfter(startOfDay(day), 1) },
      ),
    );
  const oldest = [...standing].sort((a, b) => (since(a) < since(b) ? -1 : 1))[0];
  if (oldest)
    needs.push(
      need(
        unit,
        'drive-old',
        52,
        `${state.name} · drives past five years`,
        `The oldest, ${oldest.serial}, has run since ${dayOf(since(oldest))}. Five years is a usual planning life: have a fitting spare, and plan the replacement of its age-mates one by one.`,
        { from: daysAfter(since(oldest), PLANNING_LIFE_DAYS) },
      ),
    );
  const looked = [state.firmwareAt, state.upkeepDone['firmware'], state.registeredAt]
    .flatMap((at) => at ?? [])
    .sort()
    .at(-1) as string;
  needs.push(
    need(
      unit,
      'firmware-old',
      50,
      `${state.name} · firmware not looked at for a year`,
      `Last on ${dayOf(looked)}${state.details.firmware == null ? '' : ` (${state.details.firmware})`}. Check the copies first, stop transfers, and go on until none is offered.`,
      { from: daysAfter(looked, FIRMWARE_DAYS) },
    ),
  );
  return needs;
}

function since({ boughtOn, insertedAt }: { readonly boughtOn?: string; readonly insertedAt: string }): string {
  return boughtOn === undefined || startOfDay(boughtOn) > insertedAt ? insertedAt : startOfDay(boughtOn);
}

function sentence(words: string): string {
  return `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}${/[.:]$/.test(words) ? '' : '.'}`;
}
