/** One pass of a copy: all of it at first, then what changed meanwhile. */
export interface CopyPass {
  readonly bytes: number;
  /** Seconds of copying, likely. */
  readonly seconds: number;
}

/** A copy of files that people go on working with. */
export interface CopyInPasses {
  readonly kind: 'copy-in-passes';
  /** The last is done with everybody off. */
  readonly passes: readonly CopyPass[];
  /** Days from the beginning until everybody is asked to stop. */
  readonly days: number;
  /** Seconds nobody works with it: the last pass. */
  readonly offSeconds: number;
}

export interface FilesInUse {
  readonly bytes: number;
  readonly files: number;
  /** Bytes that are written or changed in a day. */
  readonly changedBytesPerDay: number;
  /** Hours a day in which it may copy, above 0 to 24. */
  readonly hoursPerDay: number;
}

/** Seconds to look at a file that has not changed (common practice). */
const LOOK_SECONDS = 0.0003;
/** So short a time off nobody minds. */
const SHORT_SECONDS = 900;
/** A pass that is not shorter than this share of the one before gains nothing. */
const GAINS = 0.8;
const MOST_PASSES = 8;
const DAY_SECONDS = 86_400;

/**
 * A copy of what goes on being used: all of it, then what changed meanwhile, until the rest is short; that last pass is the time
 * off. Every pass looks at every file. Total.
 *
 * @param whole seconds the bytes take once through, and the files beside
 * @returns `null` where more changes than can be copied: it never catches up
 */
export function copyInPasses(
  { bytes, files, changedBytesPerDay, hoursPerDay }: FilesInUse,
  whole: { readonly bytes: number; readonly files: number },
): CopyInPasses | null {
  const secondsOf = (of: number): number =>
    bytes === 0 ? 0 : (of / bytes) * (whole.bytes + whole.files) + (of < bytes ? files * LOOK_SECONDS : 0);
  const stretched = 24 / hoursPerDay;
  const passes: CopyPass[] = [{ bytes, seconds: secondsOf(bytes) }];
  let days = 0;
  while (passes.length < MOST_PASSES) {
    const last = passes.at(-1) as CopyPass;
    if (passes.length > 1 && last.seconds <= SHORT_SECONDS) break;
    // Copied while people work, in the hours in which it may.
    const took = (last.seconds * stretched) / DAY_SECONDS;
    const changed = Math.min(bytes, changedBytesPerDay * took);
    const seconds = secondsOf(changed);
    if (passes.length > 1 && seconds > GAINS * last.seconds) break;
    if (changed >= last.bytes && bytes > 0) return null;
    days += took;
    passes.push({ bytes: changed, seconds });
  }
  const [offSeconds] = passes.slice(-1).map(({ seconds }) => seconds);
  return Object.freeze({ kind: 'copy-in-passes', passes: Object.freeze(passes), days, offSeconds: offSeconds ?? 0 });
}
