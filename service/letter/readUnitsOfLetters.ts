import type { Enclosure } from '../../core/unit/state';
import { partsOfUnits } from '../../store/shelf';
import type { App } from '../app';

/** The units a mail can be about, by name, with the boxes its words are about. */
export async function readUnitsOfLetters(
  app: App,
): Promise<{ readonly id: string; readonly name: string; readonly enclosures: readonly Enclosure[] }[]> {
  return (await partsOfUnits(app.db, ['enclosures'])).map(({ id, name, state }) => ({
    id,
    name,
    enclosures: state.enclosures,
  }));
}
