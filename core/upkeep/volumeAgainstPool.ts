import { formatBytes, formatExactBytes } from '../quantity/formatBytes';
import { wholePercent } from '../quantity/formatPercent';
import { FULL_LINE } from './need';

/** How a volume stands to the pool behind it. */
export interface VolumeVerdict {
  readonly kind: 'volume-verdict';
  readonly fits: boolean;
  /** How full the volume looks when the pool behind it is full, 0..1. */
  readonly looksFullAt: number;
  readonly sentence: string;
}

/** Two sizes with as many digits as it takes to tell them apart; to the byte where no digit does. */
function toldApart(a: number, b: number): readonly [string, string] {
  for (const digits of [1, 2, 3]) {
    const [one, other] = [formatBytes(a, 'binary', digits), formatBytes(b, 'binary', digits)];
    if (one !== other) return [one, other];
  }
  return [`${formatExactBytes(a)} bytes`, `${formatExactBytes(b)} bytes`];
}

/**
 * A volume planned on a pool. A thick one takes its space at once and cannot be larger; a thin one may be shown larger
 * than what is behind it, and then the pool fills while the volume still looks half empty.
 *
 * @param volumeBytes the size the volume is shown with
 * @param poolBytes what the pool really holds for it
 */
export function volumeAgainstPool(volumeBytes: number, poolBytes: number, thin: boolean): VolumeVerdict {
  const looksFullAt = Math.min(1, poolBytes / volumeBytes);
  const verdict = (fits: boolean, sentence: string): VolumeVerdict =>
    Object.freeze({ kind: 'volume-verdict', fits, looksFullAt, sentence });
  if (volumeBytes <= poolBytes) {
    const left = poolBytes - volumeBytes;
    return verdict(
      true,
      `${formatBytes(volumeBytes, 'binary')} stand behind it in full${left > 0 ? `; ${formatBytes(left, 'binary')} of the pool stay free` : ''}.`,
    );
  }
  if (!thin) {
    const [volume, pool] = toldApart(volumeBytes, poolBytes);
    return verdict(false, `A thick volume of ${volume} does not fit: the pool holds ${pool}.`);
  }
  return verdict(
    false,
    `It is shown with ${formatBytes(volumeBytes, 'binary')} and has ${formatBytes(poolBytes, 'binary')} behind it: the pool is full when the volume looks ${String(wholePercent(looksFullAt))} % full. Set its warning at ${String(wholePercent(looksFullAt * FULL_LINE))} %.`,
  );
}
