import type { WAYS_TO_MOVE } from '../../schemas/moveRequest';
import { figuresOf } from '../drive/media';
import { formatBytes } from '../quantity/formatBytes';
import { copyInPasses } from '../transfer/copyInPasses';
import { oneDrive, overEthernet, fileSeconds, transferTime, type TransferTime } from '../transfer/transferTime';
import { bayName } from '../unit/bayName';
import { bytesInUse, roomIn, roomiest, type Used } from './room';
import { slowestMedia } from '../unit/slowestMedia';
import { baysOf, cacheSlotsOf, placesOf, poolsOf, type DriveInUnit, type UnitState } from '../unit/state';
import { refusal, type Refusal } from '../value/refusal';

/** One way from an old unit to a newer one. */
export interface WayToMove {
  readonly kind: 'way-to-move';
  readonly way: (typeof WAYS_TO_MOVE)[number];
  readonly possible: boolean;
  /** What stands against it; or, where nothing does, what it takes. */
  readonly reasons: readonly string[];
  /** Low, likely, high; of what is carried the time both units are off. */
  readonly hours: readonly [number, number, number];
  readonly pointOfNoReturn?: string;
  /** Of a copy: where the likely hours go, and the narrowest place of its way. */
  readonly takes?: {
    readonly bytes: number;
    readonly files: number;
    readonly bottleneck: TransferTime['bottleneck'];
    /** Copied while people work: days until they are asked to stop, and hours they are off; `null`: it never catches up. */
    readonly inPasses: { readonly passes: number; readonly days: number; readonly offHours: number } | null;
  };
}

/** Minutes to take a drive out, read it and fit it; and for both starts, the look at what came along and the firmware (common practice). */
const DRIVE_MINUTES = 1.5;
const AROUND_MINUTES = { low: 15, likely: 35, high: 120 } as const;
/** Of what is there, so much is changed in a day (common practice). */
const CHANGED_A_DAY = 0.01;
/** A file of a small office, from large pictures to many small papers (common practice). */
export const FILE_BYTES = { low: 50e6, likely: 3e6, high: 300e3 } as const;

/**
 * How an old unit can be moved to a newer one, from the two families and what stands in both: carried in order, carried by
 * serial, by the maker's assistant, or copied. The maker's manual comes before it.
 *
 * @param used bytes used by pool, as last read; a pool never read counts as full
 * @param hoursPerDay in which a copy may run, above 0 to 24
 * @param joins the newer unit keeps its own name and address
 * @param isOnShelf false for one that is only described: it gets its drives and its pool when it is bought
 * @returns refused for a unit that is both, or has nothing to move
 */
export function waysToMove(
  from: UnitState,
  to: UnitState,
  used: Readonly<Record<string, number>>,
  {
    isOnShelf = true,
    hoursPerDay = 24,
    joins = servesOthers(to, used),
  }: { readonly isOnShelf?: boolean; readonly hoursPerDay?: number; readonly joins?: boolean } = {},
): readonly WayToMove[] | Refusal {
  const drives = Object.values(from.drives).filter(({ bay }) => bay !== null);
  if (drives.length === 0) return refusal('nothing-to-move', `No drive stands in ${from.name}.`, '/from');
  const unready = notReady(from);
  const carried = [...cannotBeCarried(from, to, drives), ...unready];
  return Object.freeze([
    way(
      'carry-by-slot',
      from.profile.roaming.by === 'slot'
        ? [...carried, ...notInOrder(from, to, drives)]
        : [
            from.profile.roaming.by === 'serial'
              ? `${from.profile.name} knows its drives by serial: they go in any bay.`
              : `${from.profile.name} does not carry drives over.`,
          ],
      from,
      to,
      drives,
    ),
    way(
      'carry-by-serial',
      from.profile.roaming.by === 'serial'
        ? carried
        : [
            from.profile.roaming.by === 'slot'
              ? `${from.profile.name} knows its drives by their bays: they go in order.`
              : `${from.profile.name} does not carry drives over.`,
          ],
      from,
      to,
      drives,
    ),
    assistant(from, to, used, { isOnShelf, hoursPerDay, joins }),
    copy(from, to, used, { isOnShelf, hoursPerDay, joins }),
  ]);
}

function way(
  name: 'carry-by-slot' | 'carry-by-serial',
  against: readonly string[],
  from: UnitState,
  to: UnitState,
  drives: readonly DriveInUnit[],
): WayToMove {
  const after = (around: number): number => (drives.length * DRIVE_MINUTES + around) / 60;
  const hours: WayToMove['hours'] = [
    after(AROUND_MINUTES.low),
    after(AROUND_MINUTES.likely),
    after(AROUND_MINUTES.high),
  ];
  const takes = [
    `${drives.length === 1 ? 'The drive goes' : `All ${String(drives.length)} drives go`} over${name === 'carry-by-slot' ? ', each into the bay of the same number' : ', into any bay'}: pools, single drives, idle drives and cache come along as they are.`,
    ...(from.profile.roaming.flashStick
      ? ['The flash stick with system and licence moves too: copied before, and never the only one.']
      : []),
    'The copy is proven before; the firmware follows after the look at what came along; the network name last.',
  ];
  return Object.freeze({
    kind: 'way-to-move',
    way: name,
    possible: against.length === 0,
    reasons: Object.freeze(against.length === 0 ? takes : [...against]),
    hours,
    ...(against.length === 0
      ? {
          pointOfNoReturn: `A yes to erase or initialise at the first start of ${to.name}: until then the drives go back into ${from.name} as they were. Answer no, switch off, put them back.`,
        }
      : {}),
  });
}

/** What has to be settled in the old unit before anything is carried. */
function notReady(from: UnitState): string[] {
  return [
    ...poolsOf(from).flatMap(({ name, missing, lost }) =>
      lost.length > 0
        ? [`${name} has lost more than it may: the rescue desk comes first.`]
        : missing.length > 0
          ? [`${name} is thinned: what is missing is replaced first.`]
          : [],
    ),
    ...(Object.values(from.jobs).some(({ task }) => task !== 'scrub')
      ? [`Work is running in ${from.name}: it is carried when that is done.`]
      : []),
    ...(from.away.length > 0 ? [`${from.away.join(', ')} has dropped out of ${from.name}: bring it back first.`] : []),
  ];
}

function cannotBeCarried(from: UnitState, to: UnitState, all: readonly DriveInUnit[]): string[] {
  const { roaming } = from.profile;
  const slots = cacheSlotsOf(from);
  const drives = all.filter(({ bay }) => !slots.includes(bay ?? ''));
  const stays = all.find(({ bay }) => slots.includes(bay ?? '') && !cacheSlotsOf(to).includes(bay ?? ''));
  const [there, here] = [baysOf(to).length, baysOf(from).length];
  const against: string[] = [];
  if (!roaming.families.includes(to.profile.id) || !to.profile.roaming.families.includes(from.profile.id))
    against.push(
      `Drives of ${from.profile.name} are not taken over by ${to.profile.name}: only an offer to erase them.`,
    );
  if (here === 1 && there > 1 && roaming.fromOneBay !== true)
    against.push(`The drive of a one-bay ${from.profile.name} does not move to a larger one.`);
  if (stays)
    against.push(`${to.name} has no ${bayName(from, stays.bay)}: take the cache out by a plan of its own first.`);
  const fewest = to.profile.roaming.fewestBays ?? 1;
  if (there < fewest) against.push(`It takes a unit of at least ${String(fewest)} bays.`);
  if (there < drives.length)
    against.push(
      `${to.name} has ${there === 1 ? 'one bay' : `${String(there)} bays`} for ${String(drives.length)} drives.`,
    );
  const taken = Object.values(to.drives).filter(({ bay }) => bay !== null).length;
  if (taken > 0)
    against.push(
      `${taken === 1 ? 'A drive stands' : `${String(taken)} drives stand`} in ${to.name} already: what is carried goes into an empty unit.`,
    );
  const { kinds, largestDriveBytes = Infinity } = to.profile.bays;
  const stray = drives.find(({ media, form }) =>
    (form === undefined ? figuresOf(media ?? 'hard-disk').fits : [form]).every((one) => !kinds.includes(one)),
  );
  if (stray) against.push(`What stands in ${bayName(from, stray.bay)} does not fit the bays of ${to.profile.name}.`);
  const large = drives.find(({ bytes }) => bytes > largestDriveBytes);
  if (large)
    against.push(
      `${to.profile.name} takes drives of up to ${formatBytes(largestDriveBytes)}; ${bayName(from, large.bay)} holds ${formatBytes(large.bytes)}.`,
    );
  return against;
}

/** Bay n goes to bay n: every bay that is used has to be there. */
function notInOrder(from: UnitState, to: UnitState, drives: readonly DriveInUnit[]): string[] {
  const stray = drives.find(({ bay }) => bay !== null && !placesOf(to).includes(bay));
  return stray ? [`${to.name} has no ${bayName(from, stray.bay)}: in order, every drive keeps its bay.`] : [];
}

interface Asked {
  readonly isOnShelf: boolean;
  readonly joins: boolean;
  readonly hoursPerDay: number;
}

function assistant(
  from: UnitState,
  to: UnitState,
  used: Readonly<Record<string, number>>,
  { isOnShelf, hoursPerDay }: Asked,
): WayToMove {
  const { roaming } = from.profile;
  const against = [
    ...(roaming.assistant !== true
      ? [`${from.profile.name} has no assistant that copies to a newer unit.`]
      : roaming.families.includes(to.profile.id)
        ? []
        : [`The assistant of ${from.profile.name} does not copy to ${to.profile.name}.`]),
    ...(isOnShelf ? noRoom(from, to, used) : []),
  ];
  return copied('assistant', against, from, used, hoursPerDay, [
    ...(isOnShelf ? [] : [roomToBuy(from, used)]),
    'The maker’s own assistant copies shares, users and settings over the network; what it leaves out stands in its manual.',
    'The old unit stays as it is until the copy is proven.',
  ]);
}

function copy(
  from: UnitState,
  to: UnitState,
  used: Readonly<Record<string, number>>,
  { isOnShelf, hoursPerDay, joins }: Asked,
): WayToMove {
  const sums = to.profile.software.fileSystems.some(({ checksums }) => checksums);
  return copied('copy', isOnShelf ? noRoom(from, to, used) : [], from, used, hoursPerDay, [
    ...(isOnShelf ? [] : [roomToBuy(from, used)]),
    ...(joins
      ? [
          `${to.name} serves others already: it keeps its name and address, and whoever uses ${from.name} is pointed there.`,
        ]
      : []),
    'Block volumes first, by backup and restore; then shares and permissions, then the data, then what changed meanwhile.',
    ...(sums ? ['Shares are made anew with checksums: shares that are brought over have none.'] : []),
    ...(joins
      ? []
      : [
          'The old address is taken over only when the old unit is off, and restored settings only once it is known what they overwrite.',
        ]),
    ...(poolsOf(from).some(({ id }) => used[id] === undefined)
      ? ['What is in use was never read: it is reckoned as full.']
      : []),
  ]);
}

/** A pool so full holds somebody's data, and not only what a file system keeps for itself (common practice). */
const HOLDS_DATA = 0.05;

/**
 * Whether somebody counts on it already, as far as that is on record: it was written down what it does for people, data of
 * another unit has come there or is kept there, or it is filled. What comes then joins it, and takes no name or address away.
 */
export function servesOthers(unit: UnitState, used: Used): boolean {
  return (
    unit.stock !== undefined ||
    poolsOf(unit).some(({ id, shownBytes }) => (used[id] ?? 0) > shownBytes * HOLDS_DATA) ||
    Object.values(unit.dataSets).some(({ copies }) => Object.values(copies).some(({ on }) => on !== undefined))
  );
}

function copied(
  name: 'assistant' | 'copy',
  against: readonly string[],
  from: UnitState,
  used: Readonly<Record<string, number>>,
  hoursPerDay: number,
  takes: readonly string[],
): WayToMove {
  const bytes = bytesInUse(from, used);
  const media = slowestMedia(from);
  const time = (of: keyof typeof FILE_BYTES): TransferTime =>
    transferTime(
      bytes,
      Math.max(1, bytes / FILE_BYTES[of]),
      [oneDrive('source', media), overEthernet(1)],
      fileSeconds([media]),
    );
  const after = (of: keyof typeof FILE_BYTES): number => time(of)[of] / 3600;
  const { parts, bottleneck } = time('likely');
  const inUseMeanwhile = {
    bytes,
    files: Math.max(1, bytes / FILE_BYTES.likely),
    changedBytesPerDay: bytes * CHANGED_A_DAY,
    hoursPerDay,
  };
  const inPasses = copyInPasses(inUseMeanwhile, parts);
  const hours: WayToMove['hours'] = [after('low'), after('likely'), after('high')];
  return Object.freeze({
    kind: 'way-to-move',
    way: name,
    possible: against.length === 0,
    reasons: Object.freeze(against.length === 0 ? [...takes] : [...against]),
    hours,
    ...(against.length === 0
      ? {
          takes: {
            bytes: parts.bytes / 3600,
            files: parts.files / 3600,
            bottleneck,
            inPasses: inPasses && {
              passes: inPasses.passes.length,
              days: inPasses.days,
              offHours: inPasses.offSeconds / 3600,
            },
          },
          pointOfNoReturn: `Wiping the drives of ${from.name}: they are the second copy until another one is proven. Nothing before it is final.`,
        }
      : {}),
  });
}

function noRoom(from: UnitState, to: UnitState, used: Readonly<Record<string, number>>): string[] {
  const bytes = bytesInUse(from, used);
  const pool = roomiest(to, used);
  if (!pool) return [`${to.name} has no pool to copy to: commission it with new drives first.`];
  // It goes into one pool: what is left in others does not help.
  const room = Math.max(0, roomIn(pool, used));
  const where = Object.keys(to.pools).length > 1 ? `the roomiest pool of ${to.name}` : to.name;
  return bytes > room
    ? [`${formatBytes(bytes)} are in use, and ${where} has room for ${formatBytes(room)}: larger or more drives first.`]
    : [];
}

/** What is said of a unit that has no drives yet. */
function roomToBuy(from: UnitState, used: Readonly<Record<string, number>>): string {
  return `It is commissioned first, with new drives and room for ${formatBytes(bytesInUse(from, used))} and what is still to come.`;
}
