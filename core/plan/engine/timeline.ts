import { lossWithoutRepair, unreadableWhile } from '../../risk/lossWithoutRepair';
import { marginOfPool } from '../../unit/margin';
import type { UnitState } from '../../unit/state';
import { rebuildOnto } from '../makers/replace';
import type { DryStep, DryStop } from './dryRun';

/** A stretch of a plan in which a pool's margin stays as it is. */
export interface MarginStretch {
  readonly from: string;
  readonly to: string;
  readonly margin: number;
  /** Chance that a further failure loses data within it, 0..1. */
  readonly loss: number;
  /** Chance of an unreadable sector met by a rebuild within it that can lose none: the data sheet's bound, and as usual. */
  readonly unreadable: { readonly bound: number; readonly usual: number } | null;
}

export interface PlanRisk {
  readonly kind: 'plan-risk';
  readonly pool: string;
  readonly stretches: readonly MarginStretch[];
  /** Over the whole plan. */
  readonly loss: number;
  readonly unreadable: { readonly bound: number; readonly usual: number };
  /** Hours with less margin than at its best. */
  readonly thinHours: number;
}

/**
 * What a plan risks and when: the margin of a pool against time, and over each stretch the chance of a failure that
 * loses data, exactly, with nothing repaired before the stretch ends.
 *
 * @param from when it begins (ISO 8601)
 * @param used bytes used by pool, as last read: where only used space is rebuilt, no more than that is read
 */
export function planRisk(
  unit: UnitState,
  run: readonly (DryStep | DryStop)[],
  pool: string,
  from: string,
  used: Readonly<Record<string, number>> = {},
): PlanRisk | null {
  const stretches: MarginStretch[] = [];
  let [state, at] = [unit, from];
  for (const step of run) {
    if (step.kind === 'dry-stop') break;
    const of = state.pools[pool];
    if (of && step.at > at) {
      const hours = (Date.parse(step.at) - Date.parse(at)) / 3_600_000;
      const rebuilding = Object.values(state.jobs).find(
        (job) => job.pool === pool && job.replaces !== undefined && of.missing.includes(job.replaces),
      );
      const margin = marginOfPool(of);
      const onto = state.drives[rebuilding?.onto ?? ''];
      const read =
        rebuilding && onto && margin === 0
          ? rebuildOnto(
              state,
              of,
              rebuilding.replaces as string,
              onto,
              Math.min(1, (used[pool] ?? of.shownBytes) / of.shownBytes),
            ).readBytes
          : 0;
      const here: MarginStretch = {
        from: at,
        to: step.at,
        margin,
        loss: lossWithoutRepair(state, of, hours),
        unreadable: read > 0 ? unreadableWhile(state, of, read) : null,
      };
      const last = stretches.at(-1);
      if (last?.margin === margin) stretches[stretches.length - 1] = together(last, here);
      else stretches.push(here);
    }
    state = step.after;
    at = step.at;
  }
  if (stretches.length === 0) return null;
  const best = Math.max(...stretches.map(({ margin }) => margin));
  const end = state.pools[pool];
  // The last step ends the plan: how it stands from then on.
  if (end && marginOfPool(end) !== stretches.at(-1)?.margin)
    stretches.push({ from: at, to: at, margin: marginOfPool(end), loss: 0, unreadable: null });
  const either = (chances: readonly number[]): number => 1 - chances.reduce((none, chance) => none * (1 - chance), 1);
  return Object.freeze({
    kind: 'plan-risk',
    pool,
    stretches,
    loss: -Math.expm1(stretches.reduce((sum, { loss }) => sum + Math.log1p(-Math.min(loss, 1 - 1e-15)), 0)),
    unreadable: {
      bound: either(stretches.map(({ unreadable }) => unreadable?.bound ?? 0)),
      usual: either(stretches.map(({ unreadable }) => unreadable?.usual ?? 0)),
    },
    thinHours: stretches.reduce(
      (sum, { from: a, to: b, margin }) => sum + (margin < best ? (Date.parse(b) - Date.parse(a)) / 3_600_000 : 0),
      0,
    ),
  });
}

function together(a: MarginStretch, b: MarginStretch): MarginStretch {
  return {
    from: a.from,
    to: b.to,
    margin: a.margin,
    loss: a.loss + b.loss - a.loss * b.loss,
    unreadable: a.unreadable ?? b.unreadable,
  };
}
