import { mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { existsSync, mkdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { newKey } from '../service/access/oneTimeKey';
import { USER } from '../standin/redfish/service';
import { playUnits, type Pair, type Playing } from '../standin/server';
import type { Truth } from '../standin/truth';
import { DEMO_UNITS, unitsPlayed } from '../standin/units';
import { ROOT } from './folders';
import { selfSigned } from './selfSigned';
import { explain, Sentence } from './sentence';

const USAGE = 'Usage: bin/standin --port N [--units M] [--seed S] [--http]';
const MOST_UNITS = 1000;

/** A certificate kept in a folder, made once; its name is the loopback's. */
function pairIn(folder: string, name: string): Pair {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const [certificate, key] = [join(folder, `${name}.pem`), join(folder, `${name}.key`)];
  if (!existsSync(certificate)) selfSigned({ certificate, key }, ['IP:127.0.0.1', 'DNS:localhost'], 3650);
  return { cert: readFileSync(certificate), key: readFileSync(key) };
}

function numberOf(text: string | undefined, name: string, usual: number, most: number): number {
  const number = text === undefined ? usual : Number(text);
  if (!Number.isInteger(number) || number < 0 || number > most)
    throw new Sentence(`"${text ?? ''}" is nothing for --${name}: a whole number up to ${String(most)} is. ${USAGE}`);
  return number;
}

async function play(args: string[]): Promise<void> {
  let values: { port?: string; units?: string; seed?: string; http?: boolean; keep?: string; help?: boolean };
  try {
    ({ values } = parseArgs({
      args,
      options: {
        port: { type: 'string' },
        units: { type: 'string' },
        seed: { type: 'string' },
        http: { type: 'boolean' },
        keep: { type: 'string' },
        help: { type: 'boolean', short: 'h' },
      },
    }));
  } catch (error) {
    throw new Sentence(`${(error as Error).message.split('.')[0] ?? ''}. ${USAGE}`);
  }
  if (values.help || values.port === undefined) throw new Sentence(USAGE);
  const port = numberOf(values.port, 'port', 0, 65535);
  const count = numberOf(values.units, 'units', DEMO_UNITS, MOST_UNITS);
  if (count === 0) throw new Sentence(`No unit is nothing to play. ${USAGE}`);
  const seed = numberOf(values.seed, 'seed', 1, 2 ** 31);
  const given = process.env['SHELF_STANDIN_PASSWORD'] ?? '';
  const password = given === '' ? newKey() : given;

  const folder = values.keep ?? mkdtempSync(join(tmpdir(), 'standin-'));
  const kept = join(folder, 'units.json');
  const before =
    values.keep !== undefined && existsSync(kept) ? (JSON.parse(readFileSync(kept, 'utf8')) as Truth[]) : null;
  const tls = values.http ? undefined : pairIn(folder, 'unit');
  let playing: Playing;
  try {
    playing = await playUnits({
      units: before ?? unitsPlayed(count, seed, Date.now(), ROOT),
      port,
      password,
      ...(tls ? { tls, other: () => pairIn(folder, `other-${String(Date.now())}`) } : {}),
      ...(values.keep === undefined
        ? {}
        : {
            keep: (units) => {
              writeFileSync(`${kept}.new`, JSON.stringify(units), { mode: 0o600 });
              renameSync(`${kept}.new`, kept);
            },
          }),
    });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EADDRINUSE')
      throw new Sentence(`Port ${String(port)} is taken by another program: choose one with --port N.`);
    throw error;
  }
  const stop = (): void => {
    if (values.keep === undefined) rmSync(folder, { recursive: true, force: true });
    void playing.stop().finally(() => process.exit(0));
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, stop);
  // Started by another program of ours, it goes when that one does.
  if (process.send) process.on('disconnect', stop);
  if (given === '') console.log(`User ${USER}, password ${password}`);
  console.log(`Units at ${values.http ? 'http' : 'https'}://127.0.0.1:${String(playing.port)}/`);
  process.send?.({ kind: 'listening', port: playing.port });
}

try {
  await play(process.argv.slice(2));
} catch (error) {
  process.exit(explain(error));
}
