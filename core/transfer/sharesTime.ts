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

/**
 * How long several shares take over one way, one after the other and several at a time.
 *
 * One after the other is the sum of all bytes through the narrowest passage and of a cost for each file. Several at a time
 * share the passage, while the files of one wait beside the bytes of another: a closed network of two stations, by mean value
 * analysis (Reiser and Lavenberg, Journal of the ACM 27, 1980, 313–322). What a file costs on flash is waiting, and waits
 * side by side; on disks the heads move for it, one at a time: where such a disk is the narrowest passage too, nothing is won.
 * It is never less than the largest share takes alone.
 *
 * @param media of both ends
 * @param streams how many at a time, 1 and up; more than there are shares are not used
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
  const longest = Math.max(0, ...each.map(({ likely }) => likely));
  const atOnce = Math.max(1, Math.min(streams, shares.length));
  const narrowest = passages.reduce((least, one) => (one.bytesPerSecond < least.bytesPerSecond ? one : least));
  const isWaiting = media.every(isFlash);
  const isOneDisk = !isWaiting && narrowest.what !== 'link';
  const inOrder = bytes + files;
  // A disk that is not the narrowest has the bytes to read or to write as well, beside its heads' way to each file.
  const total = shares.reduce((sum, one) => sum + one.bytes, 0);
  const ends = passages.filter(({ what }) => what !== 'link').map(({ bytesPerSecond }) => total / bytesPerSecond);
  const disk = isWaiting ? 0 : isOneDisk ? inOrder : files + Math.max(0, ...ends);
  const network = Math.max(disk, meanValue(bytes, files, isWaiting, atOnce));
  const likely = Math.min(inOrder, Math.max(network, longest));
  // Nothing is done before what is busiest has done its own.
  const bound = Math.min(inOrder, Math.max(longest, bytes, disk, inOrder / atOnce));
  const result: SharesTime = {
    kind: 'shares-time',
    shares: Object.freeze(each.map(({ name, likely: seconds }) => ({ name, seconds }))),
    inSequence: { low: inOrder * SPAN.low, likely: inOrder, high: inOrder * SPAN.high },
    sideBySide: {
      streams: atOnce,
      low: bound * SPAN.low,
      likely,
      high: inOrder * SPAN.high,
    },
    bottleneck: longest >= network && shares.length > 1 ? 'largest-share' : bytes >= files ? narrowest.what : 'files',
  };
  return Object.freeze(result);
}

/**
 * The time a closed network takes for its whole work: one station that serves one at a time, and a second one, or a wait.
 *
 * @param served demand at the first, seconds in all
 * @param other demand at the second, seconds in all
 * @param isWaiting the second is a wait, and holds nobody up
 * @param streams how many are in it, 1 and up
 */
function meanValue(served: number, other: number, isWaiting: boolean, streams: number): number {
  let [first, second, time] = [0, 0, served + other];
  for (let n = 1; n <= streams; n++) {
    const inFirst = served * (1 + first);
    const inSecond = isWaiting ? other : other * (1 + second);
    const cycle = inFirst + inSecond;
    if (cycle === 0) return 0;
    // Little's law, n of them in the network.
    [first, second, time] = [(n * inFirst) / cycle, (n * inSecond) / cycle, cycle / n];
  }
  return time;
}
