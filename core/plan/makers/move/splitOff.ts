import { bytesInUse } from '../../../move/room';
import { poolsOf, type UnitState } from '../../../unit/state';
import { entryOf } from '../../../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../../value/refusal';
import type { PlanStep } from '../../plan';
import { copyChecked } from '../copyChecked';
import { draftPlan } from '../draftPlan';
import type { BothUnits } from './bothUnits';
import { anotherCopy, dataCopied, doors, servedAlready, sharesMade, targetOf } from './copyOver';

/** How long the shares of the old unit are left as they are, read-only (common practice). */
const HOLDING_DAYS = 14;

interface Part {
  readonly id: string;
  readonly name: string;
  readonly pool?: string | undefined;
  readonly bytes?: number | undefined;
}

/** What can go to another unit by itself: every data set; and a pool nobody has written down what it holds, by its name. */
export function partsOf(unit: UnitState): readonly Part[] {
  const sets = Object.values(unit.dataSets);
  const covered = new Set(sets.map(({ pool }) => pool));
  if (covered.has(undefined)) return sets;
  return [...sets, ...poolsOf(unit).flatMap(({ id, name }) => (covered.has(id) ? [] : [{ id, name, pool: id }]))];
}

/**
 * Bytes in use of some parts of a unit: as they were written down; where one of a pool was not, all that is in use there.
 *
 * @param used bytes in use by pool, as last read; a pool never read counts as full
 */
export function bytesOfParts(unit: UnitState, parts: readonly Part[], used: BothUnits['used']): number {
  const inPool = (id: string): number => used[id] ?? entryOf(unit.pools, id)?.shownBytes ?? 0;
  const byPool = new Map<string | undefined, Part[]>();
  for (const part of parts) byPool.set(part.pool, [...(byPool.get(part.pool) ?? []), part]);
  return [...byPool].reduce((sum, [pool, of]) => {
    const whole = pool === undefined ? bytesInUse(unit, used) : inPool(pool);
    const said = of.reduce((all, { bytes = Infinity }) => all + bytes, 0);
    return sum + Math.min(said, whole);
  }, 0);
}

/**
 * A part of what a unit holds, copied to another that keeps its own name, while the rest stays and goes on being used. What
 * went is removed from the old one at the very end, once another copy is proven.
 *
 * @param only ids of the data sets that go
 * @param wholeHours the copy of everything is reckoned to take
 */
export function splitOffSteps(
  both: BothUnits,
  { pool: named, only }: { readonly pool?: string | undefined; readonly only: readonly string[] },
  wholeHours: number,
): PlanStep[] | Refusal {
  const { old, newer, from, to, used } = both;
  const all = partsOf(old);
  const stray = only.findIndex((id, i) => !all.some((part) => part.id === id) || only.indexOf(id) !== i);
  if (stray >= 0)
    return refusal(
      'data-set-unknown',
      `${old.name} has no data set ${only[stray] ?? ''}, or it is named twice.`,
      `/dataSets/${String(stray)}`,
    );
  const going = all.filter(({ id }) => only.includes(id));
  const bytes = bytesOfParts(old, going, used);
  const pool = targetOf(both, named, bytes);
  if (isRefusal(pool)) return pool;
  const what = going.map(({ name }) => name).join(', ');
  const dataSets = going.map(({ id }) => id);
  const draft = draftPlan();
  const { under, then } = draft;
  under('Before');
  then({
    id: 'manual',
    title: `Read what the makers’ manuals of ${old.name} and ${newer.name} say of copying shares`,
    why: 'They come before this plan, everywhere.',
  });
  for (const [i, id] of [...new Set(going.map((part) => part.pool ?? poolsOf(old)[0]?.id ?? ''))].entries())
    then({ ...copyChecked(old, id), id: i === 0 ? 'copy' : `copy-${String(i + 1)}` });
  servedAlready(draft, both, what);
  then({
    id: 'stock',
    kind: 'record',
    title: `Write down what goes over with ${what}, and nothing else`,
    why: 'Its shares with their permissions, who uses them, the machines and schedules that count on them. Afterwards it is gone through line by line.',
    asks: { kind: 'stock' },
    does: [{ kind: 'take-stock', goesTo: to }],
  });
  then({
    id: 'told',
    title: `Tell the people who use ${what}`,
    why: 'When it is read-only, where it is afterwards, and that everything else stays where it is.',
    maySkip: true,
  });
  doors(draft, both, { byAssistant: false, joins: true });
  sharesMade(draft, both, pool, { byAssistant: false, joins: true });
  const share = bytes / Math.max(1, bytesInUse(old, used));
  dataCopied(draft, both, pool, { byAssistant: false, hours: wholeHours * share, bytes, only: dataSets });
  under('Cutover');
  then({
    id: 'pointed',
    kind: 'record',
    title: `Point the people and machines that use ${what} at ${newer.name}${newer.details.address === undefined ? '' : `, ${newer.details.address}`}`,
    why: `Both keep their names and addresses. The shares on ${old.name} stay read-only: whoever still looks there sees how it was, and writes nothing that is missed later.`,
    does: [
      { unit: to, kind: 'take-over-data', from, pool: pool.id, dataSets },
      { kind: 'hand-over-data', to, dataSets },
    ],
  });
  then({
    id: 'client',
    title: 'Try a real client: open a file, save one, print one; and one of what has stayed',
    why: `Go through what was written down, line by line, on ${newer.name}. Permissions are looked at as somebody who may not, too.`,
    caution: `If it does not work and cannot be mended today: the shares of ${old.name} are made writable again, and people go back there. Nothing was taken away.`,
  });
  then({
    id: 'backup',
    title: `Take ${what} into the backup of ${newer.name}, and let it run once`,
    why: `Until it has, ${old.name} and what was backed up of it are all there is besides.`,
  });
  under('Afterwards');
  then({
    id: 'held',
    kind: 'wait',
    title: `Leave ${what} on ${old.name} for ${String(HOLDING_DAYS)} days, read-only`,
    why: 'Somebody will miss a file. Until then it is there, with everything as it was.',
    hours: HOLDING_DAYS * 24,
  });
  anotherCopy(draft, both, { dataSets });
  then({
    id: 'removed',
    kind: 'act',
    title: `Remove ${what} from ${old.name}`,
    why: 'Share by share, and only these: read each name twice. What is not removed is kept on record as a copy that nothing keeps up to date.',
    caution: 'If anybody has missed anything since, do not: it is still there.',
    does: [{ unit: to, kind: 'forget-copies', on: from, dataSets }],
    maySkip: true,
  });
  return draft.steps;
}
