import { isFlash, type Media } from '../drive/media';
import { fileSeconds, SPAN, transferTime, type Passage } from './transferTime';

/** One share that is copied. */
export interface ShareToCopy {
  readonly name: string;
  /** 0 and up. */
  readonly bytes: number;
  /** 1 and up. */
  readonly files: number;
}

/** Seconds, from an idle evening to a day in the office. */
export interface Span {
  readonly low: number;
  readonly likely: number;
  readonly high: number;
}

/** Several shares over one way. */
export interface SharesTime {
  readonly kind: 'shares-time';
  /** Each alone, seconds. */
  readonly shares: readonly { readonly name: string; readonly seconds: number }[];
  /** One after the other. */
  readonly inSequence: Span;
  /** So many at a time. */
  readonly sideBySide: Span & { readonly streams: number };
  /** What holds them up side by side: the narrowest passage, one share that is larger than the rest, or the files. */
  readonly bottleneck: Passage['what'] | 'files' | 'largest-share';
}

/** What is not known of how shares stand in each other's way side by side: of 100 uneven ones, simulated, 95 lay within it. */
const MODEL = 0.9;
/** Fewer at a time than are allowed are tried as well: a large share may be done sooner with fewer beside it. */
const FEWER = [24, 16, 12, 8, 6, 5, 4, 3, 2];

/**
 * How long several shares take over one way, one after the other and several at a time.
 *
 * One after the other is the sum of all bytes through the narrowest passage and of a cost for each file. Several at a time
 * share the passage, while the files of one wait beside the bytes of another: a closed network of two stations, each share a
 * customer of its own (`speeds`), followed from the end of one share, when the next begins, to the end of the next. What a file
 * costs on flash is waiting, and waits side by side; on disks the heads move for it, one at a time: where such a disk is the
 * narrowest passage too, nothing is won.
 *
 * @param media of both ends
 * @param streams how many at a time at most, 1 and up; fewer are used where there are no more shares, or where more take longer
 */
export function sharesTime(
  shares: readonly ShareToCopy[],
  passages: readonly Passage[],
  media: readonly Media[],
  streams: number,
): SharesTime {
  const perFile = fileSeconds(media);
  const each = shares.map(({ name, bytes, files }) => ({ name, ...transferTime(bytes, files, passages, perFile) }));
  const bytes = each.reduce((sum, { parts }) => sum + parts.bytes, 0);
  const files = each.reduce((sum, { parts }) => sum + parts.files, 0);
  const inOrder = bytes + files;
  const longest = Math.max(0, ...each.map(({ likely }) => likely));
  const narrowest = passages.reduce((least, one) => (one.bytesPerSecond < least.bytesPerSecond ? one : least));
  const isWaiting = media.every(isFlash);
  const isOneDisk = !isWaiting && narrowest.what !== 'link';
  const end = Math.min(...passages.filter(({ what }) => what !== 'link').map(({ bytesPerSecond }) => bytesPerSecond));
  const works = shares.map((share, i): Work => {
    const { parts } = each[i] as (typeof each)[number];
    // A disk that is not the narrowest has the bytes to read or to write as well, beside its heads' way to each file.
    return { ...parts, disk: isWaiting ? 0 : parts.files + share.bytes / end };
  });
  const most = Math.max(1, Math.min(streams, shares.length));
  let best = { likely: inOrder, streams: most };
  for (const atOnce of isOneDisk ? [] : [most, ...FEWER.filter((one) => one < most)]) {
    const likely = sideBySideOf(works, isWaiting, atOnce);
    if (likely < best.likely) best = { likely, streams: atOnce };
  }
  // Nothing is done before what is busiest has done its own.
  const disk = works.reduce((sum, one) => sum + one.disk, 0);
  const bound = Math.min(inOrder, Math.max(longest, bytes, disk, isOneDisk ? inOrder : inOrder / best.streams));
  const result: SharesTime = {
    kind: 'shares-time',
    shares: Object.freeze(each.map(({ name, likely: seconds }) => ({ name, seconds }))),
    inSequence: { low: inOrder * SPAN.low, likely: inOrder, high: inOrder * SPAN.high },
    sideBySide: {
      streams: best.streams,
      low: Math.max(bound, best.likely * MODEL) * SPAN.low,
      likely: best.likely,
      high: Math.min(inOrder, best.likely / MODEL) * SPAN.high,
    },
    bottleneck:
      shares.length > 1 && longest > Math.max(bytes, disk) && longest >= MODEL * best.likely
        ? 'largest-share'
        : bytes >= files
          ? narrowest.what
          : 'files',
  };
  return Object.freeze(result);
}

/** What a share asks of the way, seconds in all: of the narrowest passage, of what its files cost, and of the disk at an end. */
interface Work {
  readonly bytes: number;
  readonly files: number;
  readonly disk: number;
}

/** Seconds until all are done where so many are under way at once, each begun when one before it ends. */
function sideBySideOf(works: readonly Work[], isWaiting: boolean, atOnce: number): number {
  const active: { work: Work; left: number }[] = [];
  let [seconds, next] = [0, 0];
  for (;;) {
    for (; active.length < atOnce && next < works.length; next++) {
      const work = works[next] as Work;
      if (work.bytes + work.files > 0) active.push({ work, left: 1 });
    }
    if (active.length === 0) return seconds;
    const each = speeds(
      active.map(({ work }) => work),
      isWaiting,
    );
    const step = Math.min(...active.map(({ left }, i) => left / (each[i] as number)));
    seconds += step;
    active.forEach((one, i) => (one.left -= step * (each[i] as number)));
    const done = active.filter(({ left }) => left > 1e-9);
    active.splice(0, active.length, ...done);
  }
}

/** Of so many at once all that may be under way beside one is looked at; of more, what is beside it is taken as it is without it. */
const EXACT = 8;
/** As many rounds settle that, or when nothing moves by so much any more. */
const [ROUNDS, SETTLED] = [100, 1e-9];

/**
 * How much of itself each share gets done in a second beside the others: mean value analysis, each share a class of one customer
 * (Reiser and Lavenberg, Journal of the ACM 27, 1980, 313–322; of more than eight by the approximation of Bard and Schweitzer
 * 1979). Nowhere more than the disk at an end can do.
 */
function speeds(works: readonly Work[], isWaiting: boolean): readonly number[] {
  const all = works.map((_, i) => i);
  const others = works.length <= EXACT ? meetsOf(works, isWaiting) : meetsAbout(works, isWaiting);
  const taken = all.map((i) => secondsOf(works[i] as Work, others[i] as number, works.length, isWaiting)[1]);
  const load = works.reduce((sum, { disk }, i) => sum + disk / (taken[i] as number), 0);
  return taken.map((one) => 1 / (one * Math.max(1, load)));
}

/** The seconds of a share at the narrowest passage, where it meets so many others in the mean, and in all, among so many. */
function secondsOf({ bytes, files }: Work, meets: number, among: number, isWaiting: boolean): [number, number] {
  const first = bytes * (1 + meets);
  return [first, first + (isWaiting ? files : files * (among - meets))];
}

/** How many others each meets at the narrowest passage, in the mean: as many as are there without it. */
function meetsOf(works: readonly Work[], isWaiting: boolean): readonly number[] {
  // By which of them are under way, a bit for each.
  const there = new Float64Array(1 << works.length);
  for (let mask = 1; mask < there.length; mask++) {
    const among = works.filter((_, i) => mask & (1 << i)).length;
    works.forEach((work, i) => {
      if (!(mask & (1 << i))) return;
      const [first, taken] = secondsOf(work, there[mask ^ (1 << i)] as number, among, isWaiting);
      there[mask] = (there[mask] as number) + first / taken;
    });
  }
  return works.map((_, i) => there[(there.length - 1) ^ (1 << i)] as number);
}

function meetsAbout(works: readonly Work[], isWaiting: boolean): readonly number[] {
  let share = works.map(({ bytes, files }) => bytes / (bytes + files));
  for (let [round, moved] = [0, 1]; round < ROUNDS && moved > SETTLED; round++) {
    const all = share.reduce((a, b) => a + b, 0);
    const before = share;
    share = works.map((work, i) => {
      const [first, taken] = secondsOf(work, all - (before[i] as number), works.length, isWaiting);
      return first / taken;
    });
    moved = Math.max(...share.map((one, i) => Math.abs(one - (before[i] as number))));
  }
  const all = share.reduce((a, b) => a + b, 0);
  return share.map((one) => all - one);
}
