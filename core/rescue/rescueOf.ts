import { compareBays } from '../quantity/bayOrder';
import { factsOf } from '../layout/scheme';
import { standingOf } from '../ledger/fold';
import { bayName } from '../unit/bayName';
import { copyWords } from '../upkeep/copyWords';
import { formatBytes } from '../quantity/formatBytes';
import type { RecordedEvent } from '../unit/event';
import { mayBeBack } from '../unit/applyPoolServed';
import { isDown } from '../unit/margin';
import { whereWords } from '../driveLife/driveEventWords';
import type { Whereabouts } from '../driveLife/life';
import { missingMembersOf, type MissingMember } from '../unit/missingMembers';
import { marginOf } from '../survival/marginOf';
import { entryOf } from '../value/entryOf';
import { poolsOf, membersOf, type Pool, type UnitState } from '../unit/state';

/** How a drive that left stands: how much of what it holds is out of date. */
export interface LeftDrive {
  readonly serial: string;
  /** Where it is now; `null` once it is out. */
  readonly bay: string | null;
  /** The bay it stood in, where the record knows. */
  readonly from: string | null;
  readonly leftAt: string;
  /** Hours the pool went on being written without it; 0 for those that left with the one that took it down. */
  readonly staleHours: number;
  /** It failed, or showed signs before it left. */
  readonly isSick: boolean;
  readonly how: 'failed' | 'removed' | 'out-of-service' | 'dropped-out';
  /** A rebuild onto another drive had begun to take its place. */
  readonly wasBeingReplaced: boolean;
  /** Where it is by the ledgers now: in its bay, out of it and in hand, in a drawer, away. */
  readonly whereabouts: string;
  /** What it is good for. */
  readonly words: string;
}

/** A pool that has lost more than it may, as the ledger tells it. */
export interface LostPool {
  readonly pool: string;
  readonly name: string;
  readonly words: string;
  /** Members that must come back before it can be read again, whichever they are. */
  readonly needed: number;
  /** When it stopped, as far as the record knows. */
  readonly stoppedAt: string | null;
  /** It is given up: somebody stated that its data is lost. */
  readonly isGivenUp: boolean;
  /** Every drive it needs stands in its bay: it may be back once the unit was restarted. */
  readonly isAllInPlace: boolean;
  /** The order in which to let the unit try them: least stale first. */
  readonly tryFirst: readonly LeftDrive[];
  readonly stillThere: readonly { readonly serial: string; readonly bay: string }[];
}

export interface Rescue {
  readonly kind: 'rescue';
  /** What is copied elsewhere, by the record: with a good copy nobody needs rescue. */
  readonly copies: readonly string[];
  readonly pools: readonly LostPool[];
  readonly leave: readonly string[];
  readonly writeDown: readonly string[];
  readonly stopAndCall: readonly string[];
  readonly firmAsks: readonly { readonly question: string; readonly answer: string }[];
}

/** Where drives are that are out of the unit, by their own ledgers. */
export type Places = Readonly<Record<string, Whereabouts>>;

/** Drives that leave within this many minutes of each other left of one cause, not of two failures. */
const TOGETHER_MINUTES = 10;

/**
 * What to do when a pool has lost more than it may, or a unit offers only to erase: what not to touch, which drives are
 * kept and in what order they are tried, what is written down, when to stop. It reads the ledger and knows which drive
 * left last. Order after common practice; a recovery firm's word comes before it.
 */
export function rescueOf(unit: UnitState, events: readonly RecordedEvent[], places: Places = {}): Rescue {
  const leavings = missingMembersOf(events);
  const bays = lastBays(events);
  const pools = poolsOf(unit)
    .filter(isDown)
    .map((pool) => lostPool(unit, pool, leavings, bays, places));
  const inLost = (id: string | undefined): boolean =>
    pools.length === 0 || id === undefined || pools.some(({ pool }) => pool === id);
  return Object.freeze({
    kind: 'rescue',
    copies: Object.values(unit.dataSets)
      .filter(({ pool, copies }) => inLost(pool) && Object.keys(copies).length > 0)
      .map(copyWords),
    pools,
    leave: leaveAlone(unit),
    writeDown: [
      'A picture of the front with every lamp, and of the unit’s page as it is now, before anything changes.',
      'Which serial stood in which bay. The list is below: compare it with the drives, and write the bay on each that is out.',
      'What happened, in order, with times, by whom; also what was tried and what the unit answered.',
      'The words of every message the unit shows, letter for letter.',
    ],
    stopAndCall: [
      'A drive clicks, grinds, or does not spin up: switch it off. Every further minute scratches.',
      'The unit asks to erase, to initialise, to format or to create: answer no, switch off.',
      'Two tries in the order given on this page have not brought it back.',
      'The data is worth more than the price of a recovery, and there is no copy: stop before the first try.',
    ],
    firmAsks: firmAsks(unit, pools, leavings, bays),
  });
}

/** The bay each drive was last put into. */
function lastBays(events: readonly RecordedEvent[]): ReadonlyMap<string, string> {
  return new Map(
    standingOf(events).flatMap(({ event }) =>
      event.kind === 'drive-inserted' ? [[event.drive.serial, event.bay] as const] : [],
    ),
  );
}

function lostPool(
  unit: UnitState,
  pool: Pool,
  all: readonly MissingMember[],
  bays: ReadonlyMap<string, string>,
  places: Places,
): LostPool {
  const left = all.filter((one) => one.pool === pool.id);
  const stoppedAt = pool.stopped?.at ?? left.find(({ lost }) => lost)?.at ?? left.at(-1)?.at ?? null;
  const missing = new Set(pool.missing);
  const needed = Math.max(0, -marginOf(pool.bands, missing));
  const drives = left.map(({ serial, at, event }): LeftDrive => {
    const drive = unit.drives[serial];
    const staleHours = stoppedAt === null ? 0 : Math.max(0, (Date.parse(stoppedAt) - Date.parse(at)) / 3_600_000);
    const together = staleHours * 60 <= TOGETHER_MINUTES;
    const how =
      event.kind === 'drive-removed'
        ? 'removed'
        : event.kind === 'drive-failed'
          ? 'failed'
          : event.kind === 'drive-taken-out-of-service'
            ? 'out-of-service'
            : 'dropped-out';
    const wasBeingReplaced = Object.values(unit.jobs).some(({ replaces }) => replaces === serial);
    const showed = drive?.note === undefined ? '' : ` (${drive.note})`;
    const works =
      how === 'failed' || drive?.sick === 'failed'
        ? `It was recorded as failed${showed}: it may still be read once, by people with the means. Do not try it here.`
        : drive?.sick === 'signs'
          ? `It showed signs before it left${showed}: every try here may be its last. A recovery firm reads it first.`
          : 'It worked when it left.';
    return {
      serial,
      bay: drive?.bay ?? null,
      from: bays.get(serial) ?? null,
      isSick: how === 'failed' || drive?.sick !== undefined,
      leftAt: at,
      staleHours: together ? 0 : staleHours,
      how,
      wasBeingReplaced,
      whereabouts: whereNow(unit, serial, bays.get(serial) ?? null, at, places),
      words: `${together ? 'Nothing was written without it: it fits the others.' : `The pool was written ${hours(staleHours)} without it: what changed since is not on it.`} ${works}`,
    };
  });
  const rank = ({ how, isSick, staleHours }: LeftDrive): number =>
    (how === 'failed' ? 1e9 : isSick ? 1e8 : 0) + staleHours;
  const tryFirst = drives.sort((a, b) => rank(a) - rank(b) || (a.leftAt < b.leftAt ? 1 : -1));
  const stillThere = membersOf(pool)
    .filter((serial) => !missing.has(serial))
    .map((serial) => ({ serial, bay: unit.drives[serial]?.bay ?? '' }))
    .sort((a, b) => compareBays(a.bay, b.bay));
  const wholePool = factsOf(pool.scheme).loses === 'pool';
  const without = pool.missing.filter((serial) => !mayBeBack(unit, pool).includes(serial));
  return {
    pool: pool.id,
    name: pool.name,
    isGivenUp: pool.gone !== undefined,
    isAllInPlace: marginOf(pool.bands, new Set(without)) >= 0,
    words: `${pool.name} (${factsOf(pool.scheme).name}, ${formatBytes(pool.usableBytes)}) ${
      pool.missing.length === 0
        ? 'has stopped, says its unit; by the record every member stands in its bay.'
        : `is missing ${String(pool.missing.length)} of ${String(membersOf(pool).length)} members.`
    } ${
      needed === 0
        ? ''
        : wholePool
          ? `${String(needed)} of them must come back with what is on them before any of it can be read.`
          : 'Each of the others keeps its own files and can be read; what was on the lost drives is gone unless they come back.'
    }`,
    needed: wholePool ? needed : pool.lost.length,
    stoppedAt,
    tryFirst,
    stillThere,
  };
}

function whereNow(unit: UnitState, serial: string, from: string | null, leftAt: string, places: Places): string {
  const drive = entryOf(unit.drives, serial);
  if (drive?.bay != null) {
    const how = { failed: ', failed', 'out-of-service': ', out of service', suspected: ', showing signs' }[
      drive.condition as string
    ];
    return `in ${bayName(unit, drive.bay)}${how ?? ''}: leave it there`;
  }
  const where = entryOf(places, serial);
  const out = from === null ? 'out of the unit' : `out of ${bayName(unit, from)}`;
  return `${out} since ${leftAt.slice(0, 16).replace('T', ' ')} UTC${where ? `, ${whereWords(where)}` : ', where it was put is not on record'}`;
}

function hours(of: number): string {
  return of < 1
    ? `${String(Math.round(of * 60))} minutes`
    : of < 48
      ? `${String(Math.round(of))} hours`
      : `${String(Math.round(of / 24))} days`;
}

function leaveAlone({ name, profile }: UnitState): string[] {
  return [
    `Do not answer yes to anything that erases, initialises or creates on ${name}.`,
    'Do not start a rebuild or a check: with members missing it writes on those that are left.',
    'Do not swap drives between bays, and do not put a new drive in: some units begin on it by themselves.',
    ...(profile.growth.firstPowerOnDecides
      ? ['Do not switch it on with fewer drives than it had: this family decides its layout by the drives it finds.']
      : []),
    'Do not throw away, wipe or send back any drive that left, however long ago.',
    'Nobody opens a drive.',
  ];
}

function firmAsks(
  unit: UnitState,
  pools: readonly LostPool[],
  leavings: readonly MissingMember[],
  bays: ReadonlyMap<string, string>,
): { question: string; answer: string }[] {
  const { profile, details } = unit;
  return [
    {
      question: 'Which unit, which firmware',
      answer: `${profile.name}${details.serial == null ? '' : `, serial ${details.serial}`}${details.firmware == null ? '' : `, firmware ${details.firmware}`}`,
    },
    ...pools.map(({ name, pool }) => {
      const of = unit.pools[pool] as Pool;
      const bands = of.bands
        .map(
          ({ members, kind, redundancy }) => `${kind} over ${String(members.length)}, may lose ${String(redundancy)}`,
        )
        .join('; ');
      return {
        question: `How ${name} was laid out`,
        answer: `${factsOf(of.scheme).name}${of.groupWidth === undefined ? '' : `, groups of ${String(of.groupWidth)}`}: ${bands}; built ${of.builtAt === null ? 'at a time nobody knows' : of.builtAt.slice(0, 10)}`,
      };
    }),
    {
      question: 'Order of the drives',
      answer: Object.values(unit.drives)
        .map(({ serial, bay }) => ({ serial, isOut: bay === null, bay: bay ?? bays.get(serial) ?? '' }))
        .sort((a, b) => compareBays(a.bay, b.bay))
        .map(({ bay, serial, isOut }) => `${bayName(unit, bay)}: ${serial}${isOut ? ' (out now)' : ''}`)
        .join(', '),
    },
    {
      question: 'Which left first and which last',
      answer:
        [...leavings]
          .sort((a, b) => (a.at < b.at ? -1 : 1))
          .map(({ serial, at }) => `${serial} ${at.slice(0, 16).replace('T', ' ')} UTC`)
          .join(', ') || 'by the record none has left',
    },
    {
      question: 'File system',
      answer:
        Object.values(unit.volumes)
          .map(({ name, fileSystem }) => `${name}: ${fileSystem ?? 'not on record'}`)
          .join('; ') || 'not on record',
    },
    { question: 'What is most important on it, and what has been tried', answer: 'Yours to say: write it down now.' },
  ];
}
