import { isSameSerial, serialKey } from '../../drive/serial';
import { whichSerial } from '../../drive/whichSerial';
import { tooSmallWords } from '../../drive/tooSmall';
import { formatBytes } from '../../quantity/formatBytes';
import { grownByExpand } from '../../unit/grownByExpand';
import { neededBytes } from '../../unit/neededBytes';
import { withFreshDrives } from '../../unit/withFreshDrives';
import { poolChanged } from '../../unit/poolChanged';
import { driveInBay, membersOf, type Pool, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import type { Intention, PlanStep, StepEvidence } from '../plan';
import { interlocksOfHand } from './driveInHand';
import type { Interlock } from './interlock';
import { driveFacts, type DriveFacts } from './driveFacts';
import { drivesRead, type Given } from './drivesRead';
import type { KnownDrive, Knows } from './knownDrive';

/** Drives that are laid out before anything is touched: read there, where a wrong one costs nothing. */

type LayOut = Extract<Intention, { kind: 'lay-out' }>;
type DrivesRead = Extract<StepEvidence, { kind: 'drives' }>['drives'];

/** As many as are wanted, each once, each by its whole serial. */
export function whyNotDrives(
  asks: PlanStep['asks'],
  { drives }: Extract<StepEvidence, { kind: 'drives' }>,
): Refusal | undefined {
  if (asks.kind !== 'drives') return undefined;
  const twice = drives.findIndex((one, i) => drives.slice(0, i).some(({ serial }) => isSameSerial(serial, one.serial)));
  if (twice >= 0)
    return refusal(
      'scanned-twice',
      `${drives[twice]?.serial ?? ''} is in the list twice.`,
      `/evidence/drives/${String(twice)}/serial`,
    );
  const short = drives.findIndex(({ serial }) => serialKey(serial).length <= 4);
  if (short >= 0)
    return refusal(
      'serial-short',
      `${drives[short]?.serial ?? ''} is no whole serial: read all of it, once.`,
      `/evidence/drives/${String(short)}/serial`,
    );
  return drives.length === asks.count
    ? undefined
    : refusal(
        'not-scanned',
        `${String(asks.count)} are wanted, and ${String(drives.length)} were read.`,
        '/evidence/drives',
      );
}

/** What is known of a drive, with what was read off it in this plan; the record comes first. */
export function knowsWith(done: Given, knows: Knows | undefined): Knows {
  const read = drivesRead(done);
  return (typed) => {
    const known = knows?.(typed);
    const meant = whichSerial(
      typed,
      read.map(({ serial }) => serial),
    );
    const here = read.find(({ serial }) => serial === (known?.serial ?? meant));
    if (!here) return known;
    const { serial, ...facts } = here;
    return { serial, facts, ...known, isRead: true };
  };
}

/** What speaks against drives that are laid out: each by itself as the hand would be stopped with it, and what their sizes mean. */
export function interlocksOfLaidOut(
  unit: UnitState,
  step: PlanStep,
  evidence: StepEvidence,
  at: string,
  knows: Knows | undefined,
): Interlock[] {
  const layOut = step.does.find((one): one is LayOut => one.kind === 'lay-out');
  if (!layOut || evidence.kind !== 'drives') return [];
  const each = evidence.drives.flatMap((one, i) => interlocksOfOne(unit, layOut, i, one, at, knows?.(one.serial)));
  return each.length > 0 ? each : interlocksOfSizes(unit, layOut, evidence.drives);
}

function interlocksOfOne(
  unit: UnitState,
  { bays }: LayOut,
  i: number,
  one: DrivesRead[number],
  at: string,
  known: KnownDrive | undefined,
): Interlock[] {
  const { serial } = one;
  const stop = (code: Interlock['code'], sentence: string, back: string, mayOverride: boolean): Interlock => ({
    kind: 'interlock',
    code,
    sentence,
    back,
    serial: serialKey(serial),
    mayOverride,
  });
  const drive = { bay: bays[i] ?? bays[0] ?? '', ...driveFacts(one) };
  const alone: PlanStep = {
    id: 'laid-out',
    kind: 'check',
    part: '',
    title: '',
    why: '',
    asks: { kind: 'serial' },
    after: [],
    does: [{ kind: 'fit-drive', drive }],
  };
  const hand = interlocksOfHand(unit, alone, { kind: 'serial', serial }, at, known && { ...known, isRead: true });
  if (hand.length > 0) return hand;
  if (one.looks === 'damaged')
    return [
      stop(
        'sick-drive',
        `${serial} is damaged: a drive that was dropped or wetted may run for a week.`,
        'Put it aside, and send it back as it came. Take another.',
        true,
      ),
    ];
  return interlocksOfSize(serial, one, known);
}

/** A drive that is on record with another size than was read off it: one of the two is wrong, or it is another drive. */
export function interlocksOfSize(
  serial: string,
  { bytes }: Pick<DriveFacts, 'bytes'>,
  known: KnownDrive | undefined,
): Interlock[] {
  // A label and the bytes behind it are one size.
  if (!known || formatBytes(known.facts.bytes) === formatBytes(bytes)) return [];
  return [
    {
      kind: 'interlock',
      code: 'size-differs',
      sentence: `${serial} is on record with ${formatBytes(known.facts.bytes)}, and ${formatBytes(bytes)} was read off it.`,
      back: 'Read its size and its whole serial again. If the record is wrong, put it right on the drive’s own page.',
      serial: serialKey(serial),
      mayOverride: false,
    },
  ];
}

/** What the sizes that were read make of it, beside those that were planned. */
function interlocksOfSizes(unit: UnitState, layOut: LayOut, drives: DrivesRead): Interlock[] {
  const pool = entryOf(unit.pools, layOut.pool);
  const [first] = drives;
  if (!pool || !first) return [];
  const least = drives.reduce((small, one) => (one.bytes < small.bytes ? one : small), first);
  const stop = (sentence: string, back: string, mayOverride: boolean): Interlock[] => [
    { kind: 'interlock', code: 'too-small', sentence, back, serial: serialKey(least.serial), mayOverride },
  ];
  const takeOther = 'Put it aside, and take one as large as was planned.';
  const needs = neededOf(unit, pool, layOut);
  if (least.bytes < needs)
    return stop(
      `${least.serial} is too small for ${pool.name}. ${tooSmallWords(least.label ?? formatBytes(least.bytes), least.bytes, needs)}`,
      takeOther,
      false,
    );
  const planned = usableWith(
    unit,
    pool,
    layOut,
    layOut.bays.map(() => layOut.drive),
  );
  const real = usableWith(unit, pool, layOut, drives);
  if (isRefusal(planned)) return [];
  if (isRefusal(real))
    return stop(`With ${least.serial} (${sizeWords(least)}) it cannot be done. ${real.sentence}`, takeOther, false);
  return real < planned
    ? stop(
        `With ${least.serial} (${sizeWords(least)}) ${pool.name} will hold ${formatBytes(real)}, not the ${formatBytes(planned)} that were planned${real <= pool.usableBytes ? ': it gains nothing' : ''}.`,
        `${takeOther} Or stop this plan, and make one with the drives that are there: it says what they give.`,
        true,
      )
    : [];
}

function sizeWords({ label, bytes }: Pick<DriveFacts, 'label' | 'bytes'>): string {
  return label ?? formatBytes(bytes);
}

/** The bytes each must have at least: to stand in for a member, or to take over from one. */
function neededOf(unit: UnitState, pool: Pool, { use, bays }: LayOut): number {
  if (use === 'spare') return Math.max(...membersOf(pool).map((serial) => neededBytes(unit, serial)));
  if (use !== 'swap') return 0;
  const goes = bays.flatMap((bay) => driveInBay(unit, bay)?.serial ?? []);
  return Math.max(0, ...goes.map((serial) => neededBytes(unit, serial)));
}

/** The space of the pool with drives of these sizes, by the one rule. */
function usableWith(
  unit: UnitState,
  pool: Pool,
  { use, to, bays, idle = [] }: LayOut,
  drives: readonly Pick<DriveFacts, 'bytes' | 'basis'>[],
): number | Refusal {
  if (use === 'spare') return pool.usableBytes;
  if (use === 'swap') {
    const larger = bays.flatMap((bay, i) => {
      const old = driveInBay(unit, bay);
      return old ? [[old.serial, { ...old, bytes: drives[i]?.bytes ?? old.bytes }] as const] : [];
    });
    const swapped = { ...unit, drives: { ...unit.drives, ...Object.fromEntries(larger) } };
    return grownByExpand(swapped, pool)?.usableBytes ?? pool.usableBytes;
  }
  const filled = withFreshDrives(
    unit,
    bays.map((bay, i) => ({ bay, bytes: drives[i]?.bytes ?? 1, basis: drives[i]?.basis ?? 'label' })),
  );
  const changed =
    use === 'add' || to === undefined
      ? poolChanged(filled, { kind: 'added', pool: pool.id, bays: [...idle, ...bays] }, '')
      : poolChanged(filled, { kind: 'became', pool: pool.id, to, bays: [...idle, ...bays] }, '');
  if (isRefusal(changed)) return changed;
  return 'usableBytes' in changed ? changed.usableBytes : pool.usableBytes;
}
