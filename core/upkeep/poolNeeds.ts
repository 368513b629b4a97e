import { bayName } from '../unit/bayName';
import { compareBays } from '../quantity/bayOrder';
import { formatBytes } from '../quantity/formatBytes';
import { wholePercent } from '../quantity/formatPercent';
import { fullMarginOfPool, isProvenLost, marginOfPool } from '../unit/margin';
import { poolsOf, membersOf, type Pool, type UnitState } from '../unit/state';
import { ERROR_WORDS, FULL_LINE, need, sentence, type NeedForHands, type WatchedUnit } from './need';

/** What needs hands at a pool and its members. */

/** Every pool's trouble, fullness and promises, and the counts of errors that grow. */
export function poolNeeds(unit: WatchedUnit): NeedForHands[] {
  return [
    ...poolsOf(unit.state).flatMap((pool) => [
      ...troubleOf(unit, pool),
      ...fullnessOf(unit, pool),
      ...overcommitmentOf(unit, pool),
    ]),
    ...growthNeeds(unit),
  ];
}

/** The plan under way that is about this drive. */
function planAbout({ plans }: UnitState, serial: string): { plan?: string } {
  const run = Object.values(plans).find(({ serials }) => serials.includes(serial));
  return run ? { plan: run.id } : {};
}

function troubleOf(unit: WatchedUnit, pool: Pool): NeedForHands[] {
  const { state } = unit;
  const [margin, full] = [marginOfPool(pool), fullMarginOfPool(pool)];
  const place = (serial: string): string => {
    const bay = state.drives[serial]?.bay;
    return bay == null ? serial : bayName(state, bay);
  };
  if (margin < 0) {
    const without = pool.missing.map((serial) => place(serial)).join(', ');
    return isProvenLost(state, pool)
      ? [
          need(
            unit,
            'data-lost',
            0,
            `${state.name} · ${pool.name} has lost data`,
            `Leave every drive where it is, and start and confirm nothing. ${pool.gone ? `It was given up${pool.gone.note === undefined ? '' : `: ${pool.gone.note}`}.` : `${pool.lost.join(', ')} held data that is in no other drive.`}`,
          ),
        ]
      : [
          need(
            unit,
            'pool-stopped',
            0,
            `${state.name} · ${pool.name} has stopped`,
            `Nothing is proven lost. Pull nothing, swap nothing, erase nothing, start no repair.${without === '' ? '' : ` Missing: ${without}.`} The rescue desk says what is tried first.`,
          ),
        ];
  }
  const needs: NeedForHands[] = [];
  const rebuilding = Object.values(state.jobs).filter(({ task, pool: of }) => task === 'rebuild' && of === pool.id);
  const waiting = pool.missing.filter((serial) => !rebuilding.some(({ replaces }) => replaces === serial));
  for (const serial of [...waiting].sort((a, b) => compareBays(place(a), place(b)))) {
    const left =
      margin === 0
        ? 'It can lose none until it is rebuilt.'
        : `It can lose ${String(margin)} more until it is rebuilt.`;
    const went = { failed: 'has failed', removed: 'was taken out', 'out-of-service': 'is out of service' }[
      state.drives[serial]?.condition as string
    ];
    needs.push(
      need(
        unit,
        'member-failed',
        10 + margin,
        `${state.name} · ${place(serial)} ${went ?? 'is missing'}`,
        `${left} Replace ${serial} only, with a drive of at least ${formatBytes(state.drives[serial]?.bytes ?? 0)}.`,
        { serial, ...planAbout(state, serial) },
      ),
    );
  }
  if (margin === 0 && full > 0 && waiting.length === 0) {
    needs.push(
      need(
        unit,
        'no-margin',
        12,
        `${state.name} · can lose none`,
        pool.building === true
          ? `${pool.name} is built for the first time. Pull nothing, switch nothing off, and keep what is copied in elsewhere until it is done.`
          : `${pool.name} is being rebuilt. Pull nothing, switch nothing off, and check that a recent copy of it is elsewhere.`,
      ),
    );
  }
  for (const serial of membersOf(pool)) {
    const drive = state.drives[serial];
    if (drive?.condition !== 'suspected' || drive.bay === null) continue;
    needs.push(
      need(
        unit,
        'sign-growing',
        20 + full,
        `${state.name} · ${bayName(state, drive.bay)} is showing signs`,
        `${sentence(drive.note ?? 'noted without a reason')} Have a fitting drive at hand.`,
        { serial },
      ),
    );
  }
  return needs;
}

/** Error counts that grow on a drive nobody has said anything of yet. */
function growthNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state, growing = [] } = unit;
  return growing.flatMap(({ serial, metric, before, beforeDay, now }) => {
    const drive = state.drives[serial];
    if (drive?.bay == null || drive.condition !== 'well') return [];
    return [
      need(
        unit,
        'sign-growing',
        21,
        `${state.name} · ${bayName(state, drive.bay)}: ${ERROR_WORDS[metric]} grow`,
        `From ${String(before)} on ${beforeDay} to ${String(now)}. A count that grows matters more than its height: have a fitting drive at hand, and record what you see.`,
        { serial },
      ),
    ];
  });
}

function fullnessOf(unit: WatchedUnit, pool: Pool): NeedForHands[] {
  const used = unit.used[pool.id] ?? 0;
  const share = used / pool.shownBytes;
  if (!(share >= FULL_LINE)) return [];
  const left = formatBytes(Math.max(0, pool.shownBytes - used), 'binary');
  return [
    need(
      unit,
      'near-full',
      30 - share,
      `${unit.state.name} · ${String(wholePercent(share))} % full`,
      `${pool.name} is past the 80 % people plan to. ${left} are left.`,
    ),
  ];
}

/** Thin volumes that promise more than the pool holds, once the pool is more than half full of it. */
function overcommitmentOf(unit: WatchedUnit, pool: Pool): NeedForHands[] {
  const promised = Object.values(unit.state.volumes)
    .filter((volume) => volume.pool === pool.id)
    .reduce((sum, { bytes }) => sum + bytes, 0);
  if (promised <= pool.shownBytes || (unit.used[pool.id] ?? 0) < pool.shownBytes / 2) return [];
  return [
    need(
      unit,
      'thin-overcommitted',
      31,
      `${unit.state.name} · volumes promise more than there is`,
      `The volumes of ${pool.name} are shown with ${formatBytes(promised, 'binary')} together; behind them are ${formatBytes(pool.shownBytes, 'binary')}. The pool fills while the volumes look half empty.`,
    ),
  ];
}
