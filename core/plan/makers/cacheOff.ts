import { EMPTIED } from '../engine/cacheEmptied';
import { cacheStands, deadCacheWords } from '../../unit/cacheStands';
import type { UnitState } from '../../unit/state';
import type { PlanDraft } from './draftPlan';

/** Adds the steps that switch the cache off and see it empty, where there is one; what a dead drive of it means stands before. */
export function cacheOff({ then }: PlanDraft, unit: UnitState): void {
  const { kind, dead, working } = cacheStands(unit);
  if (kind === 'none') return;
  const isSafe = unit.cacheHolds === 'reads';
  if (dead.length > 0 && !isSafe)
    then({
      id: 'pools-seen',
      title: 'See what its page says of every pool',
      why: deadCacheWords(unit),
      caution:
        'One that is not served, or shows files as damaged: stop here, pull nothing, restart nothing, and record what it says. The rescue desk leads on.',
    });
  then({
    id: 'cache-off',
    kind: 'act',
    title: 'Switch the cache off in its page',
    why: isSafe
      ? 'It holds only what was read; a unit still wants it off before a drive of it comes out.'
      : 'What is only in it goes to the pool now. Reading and writing are slow until it is done.',
    caution: 'Leave the unit on: what is still in the cache is nowhere else.',
    ...(isSafe ? { does: [{ kind: 'set-cache' as const, serials: [] }] } : {}),
  });
  if (isSafe) return;
  then({
    id: 'emptied',
    kind: 'wait',
    title: 'Wait until it has emptied: what does its page say?',
    why: `${working.length === 0 ? 'None of its drives works: it may say that nothing can be emptied. ' : ''}Minutes on some units, a night on others. Only what it says itself counts, not that nothing blinks.`,
    asks: { kind: 'choice', options: [...EMPTIED] },
    does: [{ kind: 'set-cache', serials: [] }],
  });
}
