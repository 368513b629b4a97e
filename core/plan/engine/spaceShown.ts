import { formatBytes } from '../../quantity/formatBytes';
import { membersOf, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import type { PlanStep, StepEvidence } from '../plan';
import type { Interlock } from './interlock';

/** A page rounds, and keeps some back that nobody knows of: within this share it shows what it should (common practice). */
const SLACK = 0.05;

/** Bytes of one of what a unit's page counts in. */
const COUNTED = { TB: 1e12, TiB: 2 ** 40 } as const;

/** What stops a plan at the space its unit shows: less than the plan should have made of the pool. */
export function interlocksOfSpace(unit: UnitState, { does }: PlanStep, evidence: StepEvidence): Interlock[] {
  const seen = does.find((one) => one.kind === 'see-space');
  const pool = seen?.kind === 'see-space' ? entryOf(unit.pools, seen.pool) : undefined;
  if (seen?.kind !== 'see-space' || !pool || evidence.kind !== 'number') return [];
  const { counts } = unit.profile.unitPage;
  const shown = evidence.number * COUNTED[counts];
  if (shown >= seen.bytes * (1 - SLACK)) return [];
  const size = (bytes: number): string => formatBytes(bytes, counts === 'TiB' ? 'binary' : 'decimal', 2);
  return [
    {
      kind: 'interlock',
      code: 'space-missing',
      sentence: `Its page shows ${size(shown)} of ${pool.name}; ${size(seen.bytes)} are expected.`,
      back: 'No drive is at fault. Look whether its page still offers to expand the pool or to enlarge a volume, whether a rebuild is still under way, and whether another pool was read. Then enter what it shows.',
      serial: membersOf(pool)[0] ?? '',
      mayOverride: true,
    },
  ];
}
