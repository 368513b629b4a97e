'use client';
import type { UnitGrowthAsked } from '~/core/growth/unitGrowth';
import { newUnitWished } from '~/core/growth/wish';
import type { Profile } from '~/core/platform/profile';
import { isRefusal, refusal, type Refusal } from '~/core/value/refusal';
import type { GrowthGround } from '~/service/units/growthGround';
import { api, type AskedOf } from '~/web/parts/form/api';
import { useWorkerRun, type WorkerRun } from '~/web/parts/worker/useWorkerRun';
import type { GrowthFinder, GrowthFound } from './growthWorker';

export interface GrowthSearch {
  readonly state: WorkerRun<GrowthFound | Refusal>;
  readonly stop: () => void;
  /** The answer; refused with the place of what is wrong; `null` when it was stopped. */
  readonly find: (asked: AskedOf<'POST /units/{id}/growth'>['body']) => Promise<GrowthFound | Refusal | null>;
}

const FINDER = {
  open: () => new Worker(new URL('./growthWorker.ts', import.meta.url), { type: 'module' }),
  faults: {
    start: 'The search did not start: open the page again.',
    run: 'The search broke off. Nothing was changed by it: ask with fewer sizes or fewer years.',
  },
} as const;

/** Searches in a worker of its own; stopping ends the worker. */
export function useGrowthSearch({ unit, thought, usedBytes }: GrowthGround): GrowthSearch {
  const { state, start, stop } = useWorkerRun<GrowthFinder, GrowthFound | Refusal>(FINDER);
  return {
    state,
    stop,
    find: async ({ newUnit: wished, usedBytes: said, ...wish }) => {
      const newUnit = wished && (await describedNewUnit(wished));
      if (newUnit && isRefusal(newUnit)) return newUnit;
      const asked: UnitGrowthAsked = {
        ...wish,
        unit,
        thought,
        usedBytes: said ?? usedBytes ?? 0,
        ...(newUnit === undefined ? {} : { newUnit }),
      };
      const ended = await start(
        (finder, onProgress) => finder.find(asked, onProgress) as Promise<GrowthFound | Refusal>,
      );
      return ended.kind === 'done'
        ? ended.seen
        : ended.kind === 'fault'
          ? refusal('search-broken', ended.sentence)
          : null;
    },
  };
}

/** With its family, which only the server has in full. */
async function describedNewUnit(
  wished: NonNullable<AskedOf<'POST /units/{id}/growth'>['body']['newUnit']>,
): Promise<ReturnType<typeof newUnitWished>> {
  const sent = await api('GET /profiles/{id}', { id: String(wished.profile) });
  return sent.kind === 'refused'
    ? refusal('profile-unknown', sent.sentence, '/newUnit/profile')
    : newUnitWished(wished, sent.answer as Profile, new Date());
}
