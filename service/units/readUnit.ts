import type { NeedForHands } from '../../core/upkeep/need';
import type { WorkKnown } from '../../core/rebuild/workKnown';
import { isRefusal } from '../../core/value/refusal';
import { openPlansOf, type StoredPlan } from '../../store/plans';
import { papersOf, type Paper } from '../../store/papers';
import { fillOf, readingDays, usedOf, type Reading, type ReadingDay } from '../../store/readings';
import type { StoredUnit } from '../../store/units';
import type { App } from '../app';
import { readNeeds } from './readShelf';
import { readWorkKnown } from './readWorkKnown';
import { findUnit } from './findUnit';

export type { Reading, ReadingDay };

export interface UnitPage extends StoredUnit {
  /** What running work is reckoned with; nothing where none runs. */
  readonly work: WorkKnown | null;
  readonly fill: readonly Reading[];
  readonly needs: readonly NeedForHands[];
  /** Plans under way. */
  readonly plans: readonly StoredPlan[];
  readonly papers: readonly Paper[];
  /** Days of used bytes by pool. */
  readonly used: Readonly<Record<string, readonly ReadingDay[]>>;
}

const MOST_DAYS = 800;
const MOST_NEEDS = 20;

/** One unit with what its page says beside the ledger; `null` when there is none at this address. */
export async function readUnit(app: App, id: string, now: Date): Promise<UnitPage | null> {
  const unit = await findUnit(app, id);
  if (isRefusal(unit)) return null;
  const pools = Object.keys(unit.state.pools);
  const [fill, { needs }, open, papers, ...days] = await Promise.all([
    fillOf(app.db, pools),
    readNeeds(app, now, MOST_NEEDS, unit.id),
    openPlansOf(app.db, unit.id),
    papersOf(app.db, { unit: unit.id }),
    ...pools.map((pool) => readingDays(app.db, pool, MOST_DAYS)),
  ]);
  const used = Object.fromEntries(pools.map((pool, i) => [pool, days[i]?.['used-bytes'] ?? []]));
  const read = Object.fromEntries(fill.map(({ subject, value }) => [subject, value]));
  const isBusy = Object.keys(unit.state.jobs).length > 0;
  return {
    ...unit,
    work: isBusy ? await readWorkKnown(app.db, [unit.state], read) : null,
    fill,
    needs,
    plans: open,
    papers,
    used,
  };
}

/** Bytes used by each pool of these units, as last read. */
export function readUsed({ db }: App, ...units: readonly StoredUnit[]): Promise<Readonly<Record<string, number>>> {
  return usedOf(
    db,
    units.flatMap(({ state }) => Object.keys(state.pools)),
  );
}
