import { formatBytes } from '../../quantity/formatBytes';
import { dayOf } from '../../quantity/days';
import { keptUntil } from '../../unit/keptUntil';
import { isDown } from '../../unit/margin';
import { placesIn, poolsOf, type UnitState } from '../../unit/state';
import { refusal, type Refusal } from '../../value/refusal';
import type { PlanBody } from '../plan';
import { cacheOff } from './cacheOff';
import { copyChecked } from './copyChecked';
import { draftPlan } from './draftPlan';
import { HOLD_IT } from './handsOnDrive';

/**
 * The plan to take a unit out of use: what it holds is proven to be elsewhere, its pools are closed, each drive comes out by
 * its serial and is accounted for, its name and address are freed. No drive is missed on the way: a pool that is closed
 * misses none.
 *
 * @returns the plan; or why not: retired already, its drives on the way, a pool that has stopped
 */
export function retirePlan(unit: UnitState): PlanBody | Refusal {
  if (unit.retired) return refusal('retired', `${unit.name} was retired on ${dayOf(unit.retired.at)}.`, '/job');
  if (unit.packed) return refusal('packed', `The drives of ${unit.name} are on the way: they arrive first.`, '/job');
  const pools = poolsOf(unit);
  const down = pools.find(isDown);
  if (down)
    return refusal(
      'pool-lost',
      `${down.name} has stopped: open the rescue desk. A unit is retired once what it held is back, or given up.`,
      '/job',
    );
  const standing = Object.values(unit.drives).filter(({ bay }) => bay !== null);
  const until = keptUntil(unit);
  const draft = draftPlan();
  const { under, then } = draft;
  under('Before');
  if (until !== undefined)
    then({
      id: 'kept',
      title: `See that the newer one has done everything since ${unit.name} was moved away from`,
      why: `It is kept as it is until ${dayOf(until)}, as the way back. Open old files and new ones on the newer one, and look at its backup, before this one goes.`,
      does: [{ kind: 'keep-until' }],
    });
  for (const [i, pool] of pools.entries()) {
    const suffix = i === 0 ? '' : `-${String(i + 1)}`;
    then({ ...copyChecked(unit, pool.id), id: `copy${suffix}` });
    then({
      id: `restore${suffix}`,
      kind: 'record',
      title: `Fetch one file of ${pool.name} back from where it is now, today`,
      why: 'What stands in this unit is gone afterwards, for good: what is elsewhere is proven before, not after.',
      asks: { kind: 'copy', isProof: true },
      does: [{ kind: 'arrange-copy', pool: pool.id, isLast: true }],
    });
  }
  then({
    id: 'told',
    title: `Tell the people who use ${unit.name} that it goes, and from when`,
    why: 'Shares, printers that scan to it, machines that back up to it, cameras: whoever still writes to it finds out today, not when it is dark.',
  });
  then({
    id: 'papers',
    title: 'Keep its papers: invoice, licence, configuration and log, among the papers of the unit',
    why: 'A licence that moves, a warranty that is still to be claimed, a question of the tax office in five years.',
    maySkip: true,
  });
  if (pools.length > 0 || unit.cache.length > 0) under('At its page');
  cacheOff(draft, unit);
  for (const [i, pool] of pools.entries())
    then({
      id: `close-${String(i + 1)}`,
      kind: 'act',
      title: `Take ${pool.name} (${formatBytes(pool.usableBytes)}) apart in the unit’s own page`,
      why: 'From here on nothing on it is to be had any more. Its drives stand idle then, and none is missed when it comes out.',
      caution: `Read the name it asks about before you answer yes: ${pool.name}, of ${unit.name}, and of no other unit.`,
      does: [{ kind: 'destroy-pool', pool: pool.id }],
    });
  then({
    id: 'reset',
    title: 'Reset it to how it left the factory',
    why: 'Accounts, keys, tokens, addresses and the mail server it knows go with it.',
    maySkip: true,
  });
  under('At the shelf');
  then({
    id: 'power-down',
    kind: unit.power === 'on' ? 'act' : 'check',
    title: 'Shut it down, wait until it is off, and unplug every supply',
    why: 'A drive in the hand loses nothing then.',
    caution:
      'Do not open power supplies. Fans have blades. Rack power and fixed wiring are for licensed people under local codes.',
    does: unit.power === 'on' ? [{ kind: 'switch-power', on: false }] : [],
  });
  for (const [i, box] of unit.enclosures.entries()) {
    const { name } = box;
    const here = placesIn(unit, box).flatMap((bay) => standing.filter((drive) => drive.bay === bay));
    if (here.length === 0) continue;
    then({
      id: `out-${String(i + 1)}`,
      kind: 'act',
      title: `Take ${here.length === 1 ? 'the drive' : `the ${String(here.length)} drives`} out of ${unit.enclosures.length === 1 ? unit.name : name}, and read each`,
      why: 'By its serial, off the drive itself: what becomes of each is written in its own ledger.',
      caution: HOLD_IT,
      asks: { kind: 'scans', bays: here.map(({ bay, serial }) => ({ bay: bay ?? '', expects: serial })) },
      does: here.map(({ serial }) => ({ kind: 'pull-drive' as const, serial })),
    });
  }
  if (standing.length > 0) {
    under('Drives');
    const serials = standing.map(({ serial }) => serial);
    then({
      id: 'fates',
      kind: 'record',
      title: `Wipe ${serials.length === 1 ? 'it' : 'each of them'}, look that nothing can be read, and say where ${serials.length === 1 ? 'it goes' : 'each goes'}`,
      why: 'Clear: written over once, for a drive that stays in the house. Purge: by the drive’s own erase command, before it leaves. Destroy: shredded, where it cannot be written any more (words of NIST SP 800-88). A wipe nobody checked is hoped for.',
      asks: { kind: 'fates', serials },
      does: [{ kind: 'decide-fates', serials }],
    });
  }
  under('Gone');
  then({
    id: 'freed',
    title:
      'Free its address and its name: the lease, the entry in the domain, the mail for warnings, every backup that names it',
    why: 'A backup that still runs against it fails every night, and people learn to overlook its mail.',
  });
  then({
    id: 'gone',
    kind: 'record',
    title: `Say what became of ${unit.name}`,
    why: 'Given away, or handed in as electronic waste by local rules; its licence moved, or ended. It stands on the shelf no more; its ledger stays.',
    asks: { kind: 'text', label: 'What became of it, and of its licence' },
    does: [{ kind: 'retire' }],
  });
  return { job: 'retire', title: `Retire ${unit.name}`, steps: draft.steps };
}
