import { figuresOf, isFlash, type Media } from '../drive/media';
import { averageSpeed } from '../rebuild/passTime';
import { ethernetPayload } from '../speed/ethernetPayload';

/** Share of the Ethernet payload that large files get through a file protocol: 111 of 117.7 MB/s (common practice). */
export const PROTOCOL_SHARE = 0.943;

/** What a transfer passes through, each with what large files get through it, bytes/s. */
export interface Passage {
  readonly what: 'source' | 'link' | 'target';
  readonly bytesPerSecond: number;
}

export interface TransferTime {
  readonly kind: 'transfer-time';
  /** Seconds. */
  readonly low: number;
  readonly likely: number;
  readonly high: number;
  /** Where most of the time goes: the slowest passage, or the files themselves where they are many and small. */
  readonly bottleneck: Passage['what'] | 'files';
  /** Seconds for the bytes, and for the files beside. */
  readonly parts: { readonly bytes: number; readonly files: number };
}

/** What Ethernet of so many gigabits carries of large files through a file protocol, bytes/s. */
export function overEthernet(gigabits: number): Passage {
  return { what: 'link', bytesPerSecond: ethernetPayload(gigabits) * PROTOCOL_SHARE };
}

/** One drive read or written from end to end, in the mean over its surface, bytes/s. */
export function oneDrive(what: 'source' | 'target', media: Media): Passage {
  const { outerBytesPerSecond, innerOverOuter } = figuresOf(media);
  return { what, bytesPerSecond: averageSpeed(outerBytesPerSecond, innerOverOuter) };
}

/** Seconds a file costs beside its bytes: opened, named, given its rights, closed; on disks the heads move for it (common practice). */
const FILE_SECONDS = { flash: 0.002, disk: 0.008 } as const;
/** From an idle evening to a day in the office (common practice). */
export const SPAN = { low: 0.85, high: 2 } as const;

/** What a file costs between two kinds of drive, seconds. */
export function fileSeconds(media: readonly Media[]): number {
  return media.every(isFlash) ? FILE_SECONDS.flash : FILE_SECONDS.disk;
}

/**
 * How long files take from one place to another: their bytes through the narrowest passage, and a cost for each file. Ten
 * files and ten million of the same bytes differ widely.
 *
 * @param bytes 0 and up
 * @param files how many, 1 and up
 * @param perFile seconds a file costs beside its bytes
 */
export function transferTime(
  bytes: number,
  files: number,
  passages: readonly Passage[],
  perFile: number,
): TransferTime {
  const narrowest = passages.reduce((least, one) => (one.bytesPerSecond < least.bytesPerSecond ? one : least));
  const parts = { bytes: bytes / narrowest.bytesPerSecond, files: files * perFile };
  const likely = parts.bytes + parts.files;
  return Object.freeze({
    kind: 'transfer-time',
    low: likely * SPAN.low,
    likely,
    high: likely * SPAN.high,
    bottleneck: parts.files > parts.bytes ? 'files' : narrowest.what,
    parts,
  });
}
