import { needsHands, type NeedForHands } from '../core/upkeep/needsHands';
import { latestReadings } from '../store/readings';
import { allUnits, type StoredUnit } from '../store/units';
import type { App } from './app';

export interface UnitOnShelf extends StoredUnit {
  /** Bytes used by pool, as last read. */
  readonly used: Readonly<Record<string, number>>;
}

export interface Shelf {
  readonly units: readonly UnitOnShelf[];
  readonly needs: readonly NeedForHands[];
}

/** Every unit with its latest fill, and what needs hands. */
export async function readShelf(app: App): Promise<Shelf> {
  const [units, readings] = await Promise.all([allUnits(app.db), latestReadings(app.db, 'used-bytes')]);
  const onShelf = units.map((unit): UnitOnShelf => ({
    ...unit,
    used: Object.fromEntries(readings.filter((reading) => reading.unit === unit.id).map(({ pool, value }) => [pool, value])),
  }));
  return { units: onShelf, needs: needsHands(onShelf) };
}

export interface Wait {
  readonly unit: string;
  readonly unitName: string;
  readonly what: string;
  readonly percent: number;
  readonly startedAt: string;
  readonly heardAt: string;
}

/** Everything that is being waited for, over all units. */
export async function readWaits(app: App): Promise<Wait[]> {
  return (await allUnits(app.db)).flatMap(({ id, state }) =>
    Object.values(state.jobs).map((job): Wait => {
      const bay = job.onto === undefined ? undefined : state.drives[job.onto]?.bay;
      const what = { rebuild: `rebuilding${bay == null ? '' : ` bay ${bay}`}`, 'first-build': 'first build', scrub: 'reading everything to check it' }[
        job.task
      ];
      return { unit: id, unitName: state.name, what, percent: job.percent, startedAt: job.startedAt, heardAt: job.heardAt };
    }),
  );
}
