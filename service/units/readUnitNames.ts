import { partsOfUnits } from '../../store/shelf';
import type { App } from '../app';

export interface UnitName {
  readonly id: string;
  readonly name: string;
  readonly site: string;
}

/** Every unit by its name, to choose one. */
export async function readUnitNames(app: App): Promise<readonly UnitName[]> {
  return (await partsOfUnits(app.db, ['plans'])).map(({ id, name, site }) => ({ id, name, site }));
}
