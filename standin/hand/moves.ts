import { ARRIVALS } from '../../core/plan/engine/carrying';
import { COMPARED, PROVEN } from '../../core/plan/engine/copying';
import { sizeFacts } from '../../core/plan/engine/driveFacts';
import { expectedEvidence } from '../../core/plan/engine/dryRun';
import { carryBackPlan } from '../../core/plan/makers/move/carryBack';
import { movePlan } from '../../core/plan/makers/move/move';
import {
  begun,
  newerIn,
  NEWER,
  OLD,
  oldIn,
  oneBayMoved,
  POOL,
  recorded,
  tryStep,
  twoUnits,
} from '../../core/plan/makers/move/testMoves';
import { NOW } from '../../core/plan/makers/testPlans';
import type { PlanStep, StepEvidence } from '../../core/plan/plan';
import { endPlan } from '../../core/plan/run/endPlan';
import { nextStep } from '../../core/planRun/progress';
import reedbank from '../../core/platform/profiles/reedbank.json';
import saltern from '../../core/platform/profiles/saltern.json';
import tidemill from '../../core/platform/profiles/tidemill.json';
import { baysOf, driveInBay, membersOf, poolsOf, type UnitState } from '../../core/unit/state';
import { isRefusal } from '../../core/value/refusal';
import { seeded } from '../../core/value/seeded';
import { planIn, type World } from '../../core/world/world';
import { Stuck } from './person';

/**
 * A literal hand at two units: drives are carried over, or everything is copied. The truth here is what stands in which bay of which
 * unit, and which is on: nothing of it is read off the record.
 */

export const MOVE_ERRORS = ['none', 'swapped', 'misread', 'old-page', 'one-short', 'asks-to-erase'] as const;
export type MoveErr = (typeof MOVE_ERRORS)[number];

const TB = 1e12;
const used = { [POOL]: TB };

/** The moves that are worked: by which way, between which units. */
export const MOVES: readonly (readonly [
  name: string,
  way: 'carry-by-slot' | 'carry-by-serial' | 'copy',
  world: () => World,
])[] = [
  ['carried in order', 'carry-by-slot', () => twoUnits(reedbank, [4, 4, 4], 'parity-1', [4, 5])],
  ['carried in order, a mirror', 'carry-by-slot', () => twoUnits(reedbank, [4, 4], 'mirror', [2, 4])],
  ['carried by serial', 'carry-by-serial', () => twoUnits(tidemill, [8, 4, 4], 'dedicated-1', [4, 12])],
  ['carried by serial, a mixed pool', 'carry-by-serial', () => twoUnits(saltern, [4, 4, 8], 'mixed-1', [4, 6])],
  ['copied to a larger one', 'copy', () => oneBayMoved(reedbank, 3)],
  ['copied onto a mixed pool that begins with one', 'copy', () => oneBayMoved(reedbank, 3, 3, 'mixed-1', saltern)],
];

interface Bench {
  /** What stands where: bay to serial, by unit. */
  readonly bays: Readonly<Record<string, Readonly<Record<string, string>>>>;
  readonly on: Readonly<Record<string, boolean>>;
  readonly table: readonly string[];
}

function benchOf(world: World): Bench {
  const standing = (unit: UnitState): Record<string, string> =>
    Object.fromEntries(
      baysOf(unit).flatMap((bay) => (driveInBay(unit, bay) ? [[bay, driveInBay(unit, bay)?.serial ?? '']] : [])),
    );
  const [old, newer] = [oldIn(world), newerIn(world)];
  return {
    bays: { [OLD]: standing(old), [NEWER]: standing(newer) },
    on: { [OLD]: old.power === 'on', [NEWER]: newer.power === 'on' },
    table: [],
  };
}

function out(bench: Bench, unit: string, bay: string): Bench {
  const { [bay]: serial, ...left } = bench.bays[unit] ?? {};
  if (serial === undefined) throw new Stuck(`A hand is sent to bay ${bay}, and nothing stands there.`);
  return { ...bench, bays: { ...bench.bays, [unit]: left }, table: [...bench.table, serial] };
}

function into(bench: Bench, unit: string, bay: string, serial: string): Bench {
  const there = bench.bays[unit] ?? {};
  if (there[bay] !== undefined) throw new Stuck(`A hand is sent to bay ${bay}, which holds ${there[bay]}.`);
  if (!bench.table.includes(serial)) throw new Stuck(`${serial} is asked for, and lies nowhere.`);
  return {
    ...bench,
    bays: { ...bench.bays, [unit]: { ...there, [bay]: serial } },
    table: bench.table.filter((one) => one !== serial),
  };
}

/** How a move ended; `fault` in words where something is wrong. */
export interface MoveLife {
  readonly err: MoveErr;
  readonly seed: number;
  readonly steps: number;
  readonly stops: number;
  readonly fault: string | null;
}

const MOST_STEPS = 200;

/** One life of a move. */
export function moveLifeOf(
  way: 'carry-by-slot' | 'carry-by-serial' | 'copy',
  start: World,
  err: MoveErr,
  seed: number,
): MoveLife {
  const chance = seeded(seed);
  const around = { from: OLD, target: newerIn(start), used };
  const body = movePlan(oldIn(start), { to: NEWER, way, around, ...(way === 'copy' ? { addOld: true } : {}) });
  let [bench, steps, stops] = [benchOf(start), 0, 0];
  let hasErred = err === 'none';
  try {
    if (isRefusal(body)) throw new Stuck(`No plan: ${body.sentence}`);
    let world = begun(start, body);
    let plan = 'r';
    for (;;) {
      const run = planIn(world, plan);
      const step = run && nextStep(run);
      if (!step) break;
      if (steps++ > MOST_STEPS) throw new Stuck(`It stays at “${step.title}”.`);
      const before = bench;
      const errs = !hasErred && chance() < 0.6 ? err : 'none';
      const [given, after, erred] = worked(step, bench, errs);
      hasErred ||= erred;
      if (err === 'asks-to-erase' && plan === 'r' && step.does.some(({ kind }) => kind === 'arrive')) {
        // The newer one offers only to erase: nobody says yes, and the drives go back into the bays they had.
        const asked = tryStep(world, step.id, { kind: 'choice', choice: ARRIVALS[1] });
        if (isRefusal(asked) || asked.kind !== 'stopped') throw new Stuck('A question to erase stops nobody.');
        world = recorded(world, asked.entries);
        const back = carryBackPlan(oldIn(world), { around: { from: OLD, target: newerIn(world) } });
        if (isRefusal(back)) throw new Stuck(`No way back: ${back.sentence}`);
        world = begun(world, back, 'back', ['r']);
        [plan, bench, stops] = ['back', before, stops + 1];
        continue;
      }
      const made = tryStep(world, step.id, given, plan);
      if (isRefusal(made)) {
        // A list with one left on the table is not taken: the hand looks again, and reads the whole.
        if (!erred) throw new Stuck(`“${step.title}” refuses ${JSON.stringify(given)}: ${made.sentence}`);
        [bench, stops] = [before, stops + 1];
        continue;
      }
      world = recorded(world, made.entries);
      if (made.kind === 'stopped') {
        if (!erred) throw new Stuck(`“${step.title}” stops what was right: ${made.interlocks[0]?.sentence ?? ''}`);
        // What was stopped is put back as it was, and done as it is said.
        [bench, stops] = [before, stops + 1];
        continue;
      }
      if (erred && err === 'swapped' && way !== 'copy' && way !== 'carry-by-serial')
        throw new Stuck(`“${step.title}” takes two drives that were swapped.`);
      bench = after;
    }
    const ended = endPlan(world, { plan, how: 'finished' });
    if (isRefusal(ended)) throw new Stuck(ended.sentence);
    world = recorded(world, ended.entries);
    return { err, seed, steps, stops, fault: whyOther(world, bench, plan === 'r' ? NEWER : OLD) };
  } catch (error) {
    if (!(error instanceof Stuck)) throw error;
    return { err, seed, steps, stops, fault: error.message };
  }
}

/** What hands do at a step, what is then answered, and whether they erred. */
function worked(step: PlanStep, start: Bench, err: MoveErr): [StepEvidence, Bench, boolean] {
  let bench = start;
  for (const one of step.does) {
    const unit = one.unit ?? OLD;
    if (one.kind === 'switch-power') bench = { ...bench, on: { ...bench.on, [unit]: one.on } };
  }
  const { asks } = step;
  if (asks.kind === 'scans') {
    const goesIn = step.does.some(({ kind }) => kind === 'carry-in');
    const swap = err === 'swapped' && goesIn && asks.bays.length > 1;
    const order = asks.bays.map(({ bay, expects }, i) => {
      const other = swap && i < 2 ? asks.bays[1 - i]?.expects : undefined;
      return { bay, serial: other ?? expects ?? (goesIn ? bench.table[i] : undefined) ?? '' };
    });
    const unit = step.does[0]?.unit ?? OLD;
    for (const { bay, serial } of order) bench = goesIn ? into(bench, unit, bay, serial) : out(bench, unit, bay);
    const misreads = err === 'misread';
    const short = err === 'one-short' && order.length > 1;
    const scans = order
      .map((one, i) => (misreads && i === 0 ? { ...one, serial: `${one.serial}X` } : one))
      .slice(0, short ? -1 : undefined);
    return [{ kind: 'scans', scans }, bench, swap || misreads || short];
  }
  if (asks.kind === 'serial') {
    const pull = step.does.find((one) => one.kind === 'pull-drive');
    const fit = step.does.find((one) => one.kind === 'fit-drive');
    const bayIn = (unit: string, serial: string): string =>
      Object.entries(bench.bays[unit] ?? {}).find(([, there]) => there === serial)?.[0] ?? '';
    if (pull?.kind === 'pull-drive') bench = out(bench, pull.unit ?? OLD, bayIn(pull.unit ?? OLD, pull.serial));
    if (fit?.kind === 'fit-drive') bench = into(bench, fit.unit ?? NEWER, fit.drive.bay, fit.drive.serial ?? '');
    const serial = asks.expects ?? '';
    const read = fit?.kind === 'fit-drive' ? { drive: sizeFacts(fit.drive) } : {};
    return err === 'misread' && asks.expects !== undefined
      ? [{ kind: 'serial', serial: `${serial}X`, ...read }, bench, true]
      : [{ kind: 'serial', serial, ...read }, bench, false];
  }
  // The page still shows what it showed before: not everything there, not the same, nothing that came back.
  if (asks.kind === 'choice' && err === 'old-page') {
    const options: readonly string[] = asks.options;
    const against = [ARRIVALS, COMPARED, PROVEN].find(([right]) => options[0] === right)?.[1];
    if (against !== undefined) return [{ kind: 'choice', choice: against }, bench, true];
  }
  return [expectedEvidence(step, NOW), bench, false];
}

/** Where the record and the bench differ: what stands where, what is on, and pools with members that are not there. */
function whyOther(world: World, bench: Bench, home: string): string | null {
  for (const [id, unit] of [
    [OLD, oldIn(world)],
    [NEWER, newerIn(world)],
  ] as const) {
    const recordedBays = Object.values(unit.drives)
      .filter(({ bay }) => bay !== null)
      .map(({ bay, serial }) => `${bay ?? ''}:${serial}`)
      .sort()
      .join(' ');
    const truly = Object.entries(bench.bays[id] ?? {})
      .map(([bay, serial]) => `${bay}:${serial}`)
      .sort()
      .join(' ');
    if (recordedBays !== truly) return `${unit.name}: the record has “${recordedBays}”, the truth “${truly}”.`;
    if ((unit.power === 'on') !== bench.on[id]) return `${unit.name}: the record has it ${unit.power}.`;
    const stray = poolsOf(unit)
      .flatMap((pool) => membersOf(pool).filter((serial) => !pool.missing.includes(serial)))
      .find((serial) => !Object.values(bench.bays[id] ?? {}).includes(serial));
    if (stray !== undefined) return `${unit.name}: a pool counts on ${stray}, which is not there.`;
  }
  if (poolsOf(home === NEWER ? newerIn(world) : oldIn(world)).length === 0) return 'Its pool is nowhere at the end.';
  if (bench.table.length > 0) return `Left on the table: ${bench.table.join(', ')}.`;
  return null;
}
