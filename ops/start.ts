import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { openApp } from '../service/app';
import { armEntry } from '../service/access/entry';
import { newKey } from '../service/access/oneTimeKey';
import { isStaleDemo, openDemo } from '../demo/open';
import { tellDemo } from '../demo/told';
import { watchDemo } from '../demo/watched';
import { keepMailSaid, mailSaid } from '../service/tell/fromEnvironment';
import { rebuildProjections } from '../service/ledgers/rebuild';
import { openDatabase } from '../store/database';
import { countPeople } from '../store/people';
import { lacksSnapshots } from '../store/units';
import { portTaken, startApplication, type Application } from './application';
import { buildIfChanged } from './build';
import { startCluster, type Cluster } from './cluster';
import { databaseAt, databaseInCluster, dropDatabase, migrate, type DatabaseAddresses } from './databases';
import { openDataFolder, ROOT } from './folders';
import { freePort, isFree } from './freePort';
import { signInstallation } from './installation';
import { keepRotating } from './rotate';
import { claimFolder } from './running';
import { openSecrets, type Secrets } from './secrets';
import { startStandin } from './standinBeside';
import { keepListening } from './watcher';
import { isLoopback, reachAsked, type Reach, type ReachAsked } from './reach';
import { explain, Sentence } from './sentence';

const USAGE =
  'Usage: bin/start [--demo] [--port N] [--listen ADDRESS] [--url URL] [--certificate FILE --key FILE | --behind-proxy] [--no-compression]';
const DEFAULT_PORT = 4380;
/** How long a printed link is good for, when nobody uses it. */
const ENTRY_HOURS = 24;

interface Options {
  readonly demo: boolean;
  readonly reach: Reach;
}

function readOptions(args: string[]): Options {
  let values: Omit<ReachAsked, 'port'> & {
    demo?: boolean | undefined;
    port?: string | undefined;
    help?: boolean | undefined;
  };
  try {
    ({ values } = parseArgs({
      args,
      options: {
        demo: { type: 'boolean' },
        port: { type: 'string' },
        listen: { type: 'string' },
        url: { type: 'string' },
        certificate: { type: 'string' },
        key: { type: 'string' },
        'behind-proxy': { type: 'boolean' },
        'no-compression': { type: 'boolean' },
        help: { type: 'boolean', short: 'h' },
      },
    }));
  } catch (error) {
    throw new Sentence(`${(error as Error).message.split('.')[0] ?? ''}. ${USAGE}`);
  }
  if (values.help) throw new Sentence(USAGE);
  const port = Number(values.port ?? DEFAULT_PORT);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Sentence(`"${values.port ?? ''}" is not a port: a number from 1 to 65535 is. ${USAGE}`);
  return { demo: values.demo ?? false, reach: reachAsked({ ...values, port }, new Date()) };
}

/** Everything that runs, in the order it was started; stopped in the other. */
const running: { readonly stop: () => Promise<void> }[] = [];
let stopping: Promise<void> | undefined;

function stopAll(): Promise<void> {
  stopping ??= (async () => {
    for (const part of running.reverse()) await part.stop();
  })();
  return stopping;
}

function watch(name: string, { process: child }: Application | Cluster): void {
  child.once('exit', (code, signal) => {
    if (stopping) return;
    console.error(
      `${name} ended by itself (${signal ?? `exit code ${String(code)}`}); everything else is being stopped. What was recorded is safe.`,
    );
    void stopAll().finally(() => process.exit(1));
  });
}

async function start({ demo, reach }: Options): Promise<void> {
  const folder = openDataFolder();
  const release = claimFolder(folder, reach.url);
  running.push({ stop: () => Promise.resolve(release()) });
  if (!(await isFree(reach.port, reach.listen))) throw portTaken(reach.port);
  const secrets = openSecrets(folder);
  signInstallation(folder);
  await buildIfChanged();

  let addresses: DatabaseAddresses;
  const external = process.env['DATABASE_URL'];
  if (external !== undefined && external !== '') addresses = await databaseAt(external);
  else {
    const cluster = await startCluster(folder, secrets);
    running.push(cluster);
    watch('The database', cluster);
    // Demo data never stands beside real data.
    addresses = demo ? await freshDemoDatabase(cluster) : await databaseInCluster(cluster, 'patient_shelf');
  }
  await migrate(addresses);
  await completeProjections(addresses);

  const settings = { databaseUrl: addresses.app, secret: secrets.sessions, baseUrl: reach.url };
  const { greeting, isFresh, owner } = await greet(demo, reach, settings);
  const letterPort = await keepTold(settings, demo ? { owner, isFresh } : null);
  const application = await startApplication(folder, reach, settings);
  running.push(application);
  watch('The application', application);
  if (demo && isLoopback(reach.listen) && process.env['PATIENT_SHELF_STANDIN'] !== 'off')
    await playBeside(folder, secrets, settings, isFresh);
  running.push(keepListening(folder, { ...settings, letterPort }));
  running.push(
    keepRotating(
      ['application.log', 'postgres.log', 'worker.log', 'standin.log'].map((name) => join(folder, 'log', name)),
    ),
  );
  console.log(greeting);
}

/** Keeps what is said of mail at the start. @returns where mail of units is handed in, if anywhere */
async function keepTold(
  settings: Parameters<typeof keepListening>[1],
  demo: { readonly owner: string; readonly isFresh: boolean } | null,
): Promise<number | undefined> {
  const said = mailSaid(process.env);
  if (typeof said === 'string') throw new Sentence(said);
  const { PATIENT_SHELF_LETTER_PORT: asked = '' } = process.env;
  if (asked !== '' && !/^[1-9]\d{0,4}$/.test(asked))
    throw new Sentence(`PATIENT_SHELF_LETTER_PORT is "${asked}": it is a port, a number from 1 to 65535.`);
  const port = asked === '' ? (demo ? await freePort() : undefined) : Number(asked);
  const app = openApp({ ...settings, root: ROOT });
  try {
    await keepMailSaid(app, said);
    if (demo && port !== undefined) await tellDemo(app, demo.owner, port, demo.isFresh);
  } finally {
    await app.db.destroy();
  }
  return port;
}

/** The demo's simulated units, and where each of them is asked. */
async function playBeside(
  folder: string,
  secrets: Secrets,
  settings: Parameters<typeof keepListening>[1],
  isFresh: boolean,
): Promise<void> {
  const standin = await startStandin(folder, secrets, isFresh);
  if (!standin) return;
  running.push(standin);
  const app = openApp({ ...settings, root: ROOT });
  try {
    await watchDemo(app, standin, isFresh);
  } finally {
    await app.db.destroy();
  }
}

/** After tables have changed, what is computed of the ledgers is made again before anybody looks at it. */
async function completeProjections({ app }: DatabaseAddresses): Promise<void> {
  const db = openDatabase(app);
  try {
    if (!(await lacksSnapshots(db))) return;
    console.error('Making what is computed again from the ledgers …');
    await rebuildProjections(db);
  } finally {
    await db.destroy();
  }
}

/** The demo's database; one of an earlier day that nobody has touched is made anew, so that it never looks stale. */
async function freshDemoDatabase(cluster: Cluster): Promise<DatabaseAddresses> {
  const name = 'patient_shelf_demo';
  const addresses = await databaseInCluster(cluster, name);
  await migrate(addresses);
  const app = openApp({ databaseUrl: addresses.app, secret: newKey(), baseUrl: 'http://127.0.0.1:1', root: ROOT });
  const isStale = await isStaleDemo(app, new Date());
  await app.db.destroy();
  if (!isStale) return addresses;
  await dropDatabase(cluster, name);
  return databaseInCluster(cluster, name);
}

/** The line to print when everything is up: what to open, and with what key when nobody could come in without one. */
async function greet(
  demo: boolean,
  { listen }: Reach,
  settings: { readonly databaseUrl: string; readonly secret: string; readonly baseUrl: string },
): Promise<{ readonly greeting: string; readonly isFresh: boolean; readonly owner: string }> {
  const app = openApp({ ...settings, root: ROOT });
  let [isFresh, owner] = [false, ''];
  try {
    const key = process.env['SHELF_ENTRY_KEY'] ?? newKey();
    if (demo) {
      const opened = await openDemo(app, new Date(), key, isLoopback(listen) ? ENTRY_HOURS : 0);
      if (opened.kind === 'not-a-demo')
        throw new Sentence('This database holds a real shelf: the demo needs a database of its own.');
      ({ isFresh, owner } = opened);
      await armEntry(app.auth, { kind: 'enter', userId: opened.owner }, ENTRY_HOURS, key);
    } else if ((await countPeople(app.db)) === 0) {
      await armEntry(app.auth, { kind: 'first-owner' }, ENTRY_HOURS, key);
    } else return { greeting: `Open ${settings.baseUrl}/`, isFresh, owner };
    return { greeting: `Open ${settings.baseUrl}/enter?key=${encodeURIComponent(key)}`, isFresh, owner };
  } finally {
    await app.db.destroy();
  }
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
  process.on(signal, () => {
    void stopAll().finally(() => process.exit(0));
  });
}

try {
  await start(readOptions(process.argv.slice(2)));
} catch (error) {
  const code = explain(error);
  await stopAll();
  process.exit(code);
}
