import { compareBays } from '../quantity/bayOrder';
import { formatBytes } from '../quantity/formatBytes';
import { wholePercent } from '../quantity/formatPercent';
import { frozen } from '../value/frozen';
import { fullMarginOfPool, marginOfPool } from '../unit/margin';
import { membersOf, type Pool, type UnitState } from '../unit/state';

/** Something a person has to do, with the reason; most urgent first by `urgency`. */
export interface NeedForHands {
  readonly kind: 'need-for-hands';
  readonly unit: string;
  readonly code: 'data-lost' | 'member-failed' | 'sign-growing' | 'near-full';
  readonly title: string;
  readonly reason: string;
  /** Lower is more urgent. */
  readonly urgency: number;
}

export interface WatchedUnit {
  readonly id: string;
  readonly state: UnitState;
  /** Bytes used by pool, as last read. */
  readonly used: Readonly<Record<string, number>>;
}

/** People plan to 80 % of what the unit shows (common practice). */
export const FULL_LINE = 0.8;

/**
 * What needs hands, over all units, most urgent first: data lost, members failed or out, drives showing signs, pools
 * past the line people plan to. Computed from state and readings alone.
 */
export function needsHands(units: readonly WatchedUnit[]): NeedForHands[] {
  return frozen(
    units
      .flatMap((unit) => Object.values(unit.state.pools).flatMap((pool) => [...troubleOf(unit, pool), ...fullnessOf(unit, pool)]))
      .sort((a, b) => a.urgency - b.urgency || (a.title < b.title ? -1 : 1)),
  ) as NeedForHands[];
}

function troubleOf({ id, state }: WatchedUnit, pool: Pool): NeedForHands[] {
  const need = (code: NeedForHands['code'], urgency: number, title: string, reason: string): NeedForHands => ({
    kind: 'need-for-hands',
    unit: id,
    code,
    urgency,
    title,
    reason,
  });
  const [margin, full] = [marginOfPool(pool), fullMarginOfPool(pool)];
  const place = (serial: string): string => {
    const bay = state.drives[serial]?.bay;
    return bay == null ? serial : `bay ${bay}`;
  };
  if (margin < 0) {
    return [
      need(
        'data-lost',
        0,
        `${state.name} · ${pool.name} has lost data`,
        `Leave every drive where it is and power nothing down. ${pool.lost.join(', ')} held data that is gone from this pool.`,
      ),
    ];
  }
  const needs: NeedForHands[] = [];
  const rebuilding = Object.values(state.jobs).filter(({ task, pool: of }) => task === 'rebuild' && of === pool.id);
  const waiting = pool.missing.filter((serial) => !rebuilding.some(({ replaces }) => replaces === serial));
  for (const serial of [...waiting].sort((a, b) => compareBays(place(a), place(b)))) {
    const left = margin === 0 ? 'It can lose none until it is rebuilt.' : `It can lose ${String(margin)} more until it is rebuilt.`;
    needs.push(
      need(
        'member-failed',
        10 + margin,
        `${state.name} · ${place(serial)} has failed`,
        `${left} Replace ${serial} only, with a drive of at least ${formatBytes(state.drives[serial]?.bytes ?? 0)}.`,
      ),
    );
  }
  for (const serial of membersOf(pool)) {
    const drive = state.drives[serial];
    if (drive?.condition !== 'suspected' || drive.bay === null) continue;
    needs.push(
      need(
        'sign-growing',
        20 + full,
        `${state.name} · bay ${drive.bay} is showing signs`,
        `${sentence(drive.note ?? 'noted without a reason')} Have a fitting drive at hand.`,
      ),
    );
  }
  return needs;
}

function fullnessOf({ id, state, used }: WatchedUnit, pool: Pool): NeedForHands[] {
  const share = (used[pool.id] ?? 0) / pool.shownBytes;
  if (!(share >= FULL_LINE)) return [];
  const percent = String(wholePercent(share));
  return [
    {
      kind: 'need-for-hands',
      unit: id,
      code: 'near-full',
      urgency: 30 - share,
      title: `${state.name} · ${percent} % full`,
      reason: `${pool.name} is past the 80 % people plan to. ${formatBytes(Math.max(0, pool.shownBytes - (used[pool.id] ?? 0)), 'binary')} are left.`,
    },
  ];
}

function sentence(words: string): string {
  return `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}${/[.:]$/.test(words) ? '' : '.'}`;
}
