import { worst } from '../risk/riskOfLayout';
import { layoutName } from '../layout/layoutName';
import { formatCount } from '../quantity/formatCount';
import { formatPercent } from '../quantity/formatPercent';
import { TB } from '../quantity/bytes';
import { FULL_LINE } from '../upkeep/need';
import type { Appraisal } from './appraise';

/** What matters, in the words of whoever will live with it. */
export interface Needs {
  /** Failures it must survive, whichever drives they are. */
  readonly survive: number;
  /** Space needed now, TB, and how much more each year, as a share. */
  readonly terabytesNow: number;
  readonly growthPerYear: number;
  readonly years: number;
  /** Most that a usable TB may cost, in hundredths; `null` when money is no matter. */
  readonly mostCentsPerTB: number | null;
  /** Large files, or many small ones and random access. */
  readonly work: 'large-files' | 'many-small';
  /** Whether it may stand still while a drive is rebuilt. */
  readonly mayStandStill: boolean;
}

/** Survive one, room for ten, a tenth more every year for five years; money no matter (common practice). */
export const USUAL_NEEDS: Needs = Object.freeze({
  survive: 1,
  terabytesNow: 10,
  growthPerYear: 0.1,
  years: 5,
  mostCentsPerTB: null,
  work: 'large-files',
  mayStandStill: true,
});

/** One need against one layout: met or not, the arithmetic, and what would have to be different. */
export interface Verdict {
  readonly about: 'survival' | 'space' | 'price' | 'standing-still';
  readonly met: boolean;
  readonly sentence: string;
  readonly otherwise: string;
}

export interface RankedLayout {
  readonly kind: 'ranked-layout';
  readonly appraisal: Appraisal;
  readonly verdicts: readonly Verdict[];
  /** For every layout but the first: what would have to change for it to win. */
  readonly wouldWinIf: string | null;
}

/**
 * Ranks legal layouts by what matters, without weights: first those that survive what was asked, then by how many
 * needs they leave unmet, then by what the work asks for (small writes a second, or usable space), then by the chance
 * of loss, then by space. The reasons are the figures compared.
 */
export function recommend(appraisals: readonly Appraisal[], needs: Needs): RankedLayout[] {
  const judged = appraisals
    .filter(({ layout }) => layout.legal)
    .map((appraisal) => ({ appraisal, verdicts: verdictsOf(appraisal, needs) }));
  const unmet = ({ verdicts }: (typeof judged)[number]): number => verdicts.filter(({ met }) => !met).length;
  const dies = ({ verdicts }: (typeof judged)[number]): number =>
    verdicts.filter(({ about, met }) => about === 'survival' && !met).length;
  judged.sort(
    (a, b) =>
      dies(a) - dies(b) ||
      unmet(a) - unmet(b) ||
      byWork(a.appraisal, b.appraisal, needs) ||
      lossOf(a.appraisal) - lossOf(b.appraisal) ||
      b.appraisal.layout.usableBytes - a.appraisal.layout.usableBytes,
  );
  const [first] = judged;
  return judged.map((one, i) =>
    Object.freeze({
      kind: 'ranked-layout',
      ...one,
      wouldWinIf: i === 0 || !first ? null : wouldWinIf(one, first, needs),
    }),
  );
}

function byWork(a: Appraisal, b: Appraisal, { work }: Needs): number {
  return work === 'many-small'
    ? Math.round(b.speed.smallWrites) - Math.round(a.speed.smallWrites)
    : b.layout.usableBytes - a.layout.usableBytes;
}

function lossOf({ risk }: Appraisal): number {
  // A rebuild that stops is a pool to be copied off and made anew, if nothing else fails meanwhile.
  return risk ? worst(risk.chanceOfLoss) + worst(risk.rebuildStops) : 1;
}

function verdictsOf({ layout, centsPerUsableTB }: Appraisal, needs: Needs): Verdict[] {
  const verdicts: Verdict[] = [];
  const survives = layout.guaranteedFailures;
  verdicts.push({
    about: 'survival',
    met: survives >= needs.survive,
    sentence: `survives any ${String(survives)} (${String(needs.survive)} asked for)`,
    otherwise: survives === 0 ? 'nothing had to be survived' : `surviving ${String(survives)} were enough`,
  });
  const room = (layout.shownBytes - layout.fileSystemReserveBytes) * FULL_LINE;
  const wanted = needs.terabytesNow * TB * (1 + needs.growthPerYear) ** needs.years;
  const lasts = yearsUntil(room, needs);
  verdicts.push({
    about: 'space',
    met: room >= wanted,
    sentence: `${(room / TB).toFixed(1)} TB up to the 80 % line, ${lasts === Infinity ? 'enough for good' : lasts <= 0 ? 'too little already' : `enough for ${lasts.toFixed(1)} years`} (${(wanted / TB).toFixed(1)} TB in ${String(needs.years)} years asked for)`,
    otherwise: `${(room / TB).toFixed(1)} TB were enough`,
  });
  if (needs.mostCentsPerTB !== null && centsPerUsableTB !== null) {
    verdicts.push({
      about: 'price',
      met: centsPerUsableTB <= needs.mostCentsPerTB,
      sentence: `${(centsPerUsableTB / 100).toFixed(2)} for a usable TB (${(needs.mostCentsPerTB / 100).toFixed(2)} at most)`,
      otherwise: `a usable TB might cost ${(centsPerUsableTB / 100).toFixed(2)}`,
    });
  }
  if (!needs.mayStandStill) {
    verdicts.push({
      about: 'standing-still',
      met: survives >= 1,
      sentence: survives >= 1 ? 'goes on while a drive is rebuilt' : 'stands still when a drive fails',
      otherwise: 'it might stand still',
    });
  }
  return verdicts;
}

/** Years until the need passes the room; `Infinity` when it never does. */
function yearsUntil(room: number, { terabytesNow, growthPerYear }: Needs): number {
  const now = terabytesNow * TB;
  if (room < now) return 0;
  return growthPerYear <= 0 || now <= 0 ? Infinity : Math.log(room / now) / Math.log1p(growthPerYear);
}

function wouldWinIf(
  { appraisal, verdicts }: { appraisal: Appraisal; verdicts: readonly Verdict[] },
  first: { appraisal: Appraisal; verdicts: readonly Verdict[] },
  needs: Needs,
): string {
  const missed = verdicts.filter(({ met }) => !met).map(({ otherwise }) => otherwise);
  if (missed.length > 0) return `if ${missed.join(', and ')}`;
  const better = layoutName(first.appraisal.layout);
  const [mine, theirs] = [appraisal, first.appraisal];
  if (needs.work === 'many-small' && Math.round(mine.speed.smallWrites) < Math.round(theirs.speed.smallWrites)) {
    return `if small writes mattered less: ${formatCount(mine.speed.smallWrites)} a second against ${formatCount(theirs.speed.smallWrites)} of ${better}`;
  }
  const short = (theirs.layout.usableBytes - mine.layout.usableBytes) / TB;
  if (short > 0) return `if ${short.toFixed(1)} TB less than ${better} were as good`;
  return `if its chance of loss, ${formatPercent(lossOf(mine))}, were below ${formatPercent(lossOf(theirs))} of ${better}`;
}
