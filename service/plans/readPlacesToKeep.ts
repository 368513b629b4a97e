import { openPlanPlaces } from '../../store/plans';
import type { App } from '../app';

/** As many plans are under way at once where people can look after them. */
const MOST = 6;

/** Addresses worth having where there is no network: the shelf, the plans under way, their units and the lamps of those. */
export async function readPlacesToKeep({ db }: App): Promise<readonly string[]> {
  const open = await openPlanPlaces(db, MOST);
  const places = open.flatMap(({ plan, units }) =>
    units.flatMap((unit) => [`/units/${unit}/plans/${plan}`, `/units/${unit}`, `/units/${unit}/lamps`]),
  );
  return [...new Set(['/', ...places])];
}
