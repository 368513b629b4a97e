import type { App } from '../service/app';
import { allUnits } from '../store/units';
import { saveWatch, watchOf } from '../store/watches';
import { DEMO } from './past';
import { MARROWFEN } from './scenario';

/** Units of the demo that are asked how they are; the others are looked at by people. */
const WATCHED: readonly string[] = ['Heron', 'Coot', 'Plover', 'Wren'];
const EVERY_SECONDS = 10;

/**
 * Says where the demo's simulated units are asked, who stand elsewhere after every start. One that somebody has ceased to
 * watch stays so.
 *
 * @param url where they stand; the demo's nth unit at `/unit-n`
 * @param isFresh the demo has just been made
 */
export async function watchDemo(
  app: App,
  { url, password }: { readonly url: string; readonly password: string },
  isFresh: boolean,
): Promise<void> {
  for (const { id, state } of await allUnits(app.db)) {
    const n = MARROWFEN.units.findIndex(({ name }) => name === state.name) + 1;
    const before = await watchOf(app.db, id);
    const isOurs = before?.setBy === DEMO.name;
    if (n === 0 || !(isOurs || (isFresh && WATCHED.includes(state.name)))) continue;
    const address = `${url}/unit-${String(n)}`;
    await saveWatch(app.db, {
      unit: id,
      address,
      userName: 'keeper',
      secret: app.seal.close(password, `${id} ${address}`),
      fingerprint: before?.fingerprint ?? null,
      everySeconds: before?.everySeconds ?? EVERY_SECONDS,
      isOn: before?.isOn ?? true,
      setBy: DEMO.name,
    });
  }
}
