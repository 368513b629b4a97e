import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDemo } from '~/demo/open';
import { selfSigned } from '~/ops/selfSigned';
import { playUnits, type Playing } from '~/standin/server';
import { unitsPlayed } from '~/standin/units';
import { allUnits } from '~/store/units';
import { newKey } from '../access/oneTimeKey';
import { testShelf, type TestShelf } from './testShelf';

export const PASSWORD = 'a pass word';
/** The demo's units, in the order in which they are played. */
export const NAMES = ['Heron', 'Coot', 'Plover', 'Wren', 'Bittern', 'Teal', 'Snipe'];

/** The demo on a shelf for tests, and its units played beside it. */
export interface PlayedDemo {
  readonly shelf: TestShelf;
  readonly playing: Playing;
  readonly owner: string;
  /** Ids of units by their names. */
  readonly ids: ReadonlyMap<string, string>;
  readonly addressOf: (name: string) => string;
  /** Has a unit asked how it is, from now on. */
  readonly watched: (name: string, more?: object) => ReturnType<TestShelf['ask']>;
  /** Does something to a unit, as at its panel. */
  readonly panel: (name: string, body: object) => Promise<void>;
  readonly close: () => Promise<void>;
}

export async function playedDemo(): Promise<PlayedDemo> {
  const shelf = await testShelf();
  const now = new Date();
  await openDemo(shelf.app, now, newKey(), 0);
  const folder = mkdtempSync(join(tmpdir(), 'played-'));
  const pair = (name: string) => {
    const [certificate, key] = [join(folder, `${name}.pem`), join(folder, `${name}.key`)];
    selfSigned({ certificate, key }, ['IP:127.0.0.1']);
    return { cert: readFileSync(certificate), key: readFileSync(key) };
  };
  const playing = await playUnits({
    units: unitsPlayed(7, 1, now.getTime(), process.cwd()),
    port: 0,
    password: PASSWORD,
    tls: pair('first'),
    other: () => pair('other'),
  });
  const owner = await shelf.tokenOf('owner');
  const ids = new Map((await allUnits(shelf.app.db)).map(({ id, state }) => [state.name, id]));
  const place = (name: string): string => `unit-${String(NAMES.indexOf(name) + 1)}`;
  const addressOf = (name: string): string => `https://127.0.0.1:${String(playing.port)}/${place(name)}`;
  return {
    shelf,
    playing,
    owner,
    ids,
    addressOf,
    watched: (name, more = {}) =>
      shelf.ask('PUT', `/units/${ids.get(name) ?? ''}/watch`, owner, {
        address: addressOf(name),
        user: 'keeper',
        password: PASSWORD,
        ...more,
      }),
    panel: async (name, body) => {
      const status = await new Promise<number>((resolve, reject) => {
        const sent = request(
          `https://127.0.0.1:${String(playing.port)}/panel/${place(name)}`,
          {
            method: 'POST',
            rejectUnauthorized: false,
            headers: { authorization: `Basic ${Buffer.from(`keeper:${PASSWORD}`).toString('base64')}` },
          },
          (response) => {
            response.resume();
            resolve(response.statusCode ?? 0);
          },
        );
        sent.on('error', reject);
        sent.end(JSON.stringify(body));
      });
      if (status !== 200) throw new Error(`${name} answered ${String(status)} to ${JSON.stringify(body)}.`);
    },
    close: async () => {
      await playing.stop();
      await shelf.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
