import { copyWords } from '../../upkeep/copyWords';
import { isProven } from '../../unit/provenCopy';
import type { DataSet, UnitState } from '../../unit/state';
import type { Draft } from './draftPlan';

/**
 * The step every plan that touches members begins with: where the other copy is, how old, and when a restore was last
 * tried. Of a pool without one on record, or with one that is not proven, it asks by fields.
 */
export function copyChecked(unit: UnitState, pool: string): Draft {
  const sets = Object.values(unit.dataSets).filter((set) => set.pool === undefined || set.pool === pool);
  const without = sets.filter(({ copies }) => Object.keys(copies).length === 0);
  if (sets.length === 0 || without.length > 0) {
    const named =
      without.length > 0 ? without.map(({ name }) => name).join(', ') : (unit.pools[pool]?.name ?? 'this pool');
    return {
      id: 'copy',
      kind: 'record',
      title: `Say where the other copy of ${named} is`,
      why: 'No copy of it is on record; what you say is written into the register of copies. A pool is not a backup, and what follows leans on the drives that are left.',
      caution:
        'Without a copy, stop here if you can: copy first what cannot be made again, smallest and dearest first.',
      asks: { kind: 'copy' },
      does: [{ kind: 'arrange-copy', pool }],
    };
  }
  const worries = sets.flatMap(worriesOf);
  const seen = {
    id: 'copy',
    title: 'Look at the copy: that it is there, and how old',
    why: sets.map(copyWords).join(' ').slice(0, 600),
  };
  return worries.length === 0
    ? seen
    : {
        ...seen,
        kind: 'record',
        caution: worries.join(' ').slice(0, 600),
        asks: { kind: 'copy' },
        does: [{ kind: 'arrange-copy', pool }],
      };
}

function worriesOf({ name, copies }: DataSet): string[] {
  const all = Object.values(copies);
  const worries: string[] = [];
  if (all.every(({ keeps }) => keeps === 'mirror'))
    worries.push(`Every copy of ${name} is a mirror: it repeats a deletion.`);
  if (!all.some((copy) => isProven(copy)))
    worries.push(`No restore of ${name} has been proven. Fetch one file back now: it takes minutes.`);
  if (all.every(({ failedAt }) => failedAt !== undefined))
    worries.push(`The last run of every copy of ${name} failed.`);
  return worries;
}
