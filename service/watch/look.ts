import { randomUUID } from 'node:crypto';
import { believe } from '../../core/observe/believe';
import { compareObservation, type Contradiction } from '../../core/observe/compareObservation';
import { readRedfish, type Gathered, type ReadUnit } from '../../core/observe/readRedfish';
import type { UnitEvent } from '../../core/unit/event';
import { isRefusal } from '../../core/value/refusal';
import type { Act, Actor } from '../../core/world/act';
import { unitLedger } from '../../core/world/ledger';
import type { Transaction } from '../../store/database';
import { reachOf } from './nearby';
import { unitById, type StoredUnit } from '../../store/units';
import {
  deleteWatch,
  letGo,
  saveHeard,
  saveLight,
  saveSilent,
  type Seen,
  type Trouble,
  type Watch,
} from '../../store/watches';
import type { App } from '../app';
import { happened } from '../door/happened';
import { ofUnit } from '../ledgers/asked';
import { inTransaction } from '../ledgers/inTransaction';
import { FAILS_TOLD, projectReckoned } from '../ledgers/project';
import { hold, recordActIn } from '../ledgers/recordAct';
import { isWorthKeeping } from '../../core/observe/worthKeeping';
import { lastKept } from '../../store/readings';
import { addMeasured } from '../units/measure';
import { baseOf } from './baseOf';
import { beTold } from './beTold';
import { gather } from './gather';
import { openDoor, UnitTrouble, type UnitDoor } from './unitDoor';

/** What the watch records is recorded by it, and says so. */
export const WATCH: Actor = { kind: 'watch', id: null, name: 'Watch' };

/** So long a look may hold a unit, seconds: longer than a look can take. */
export const HELD_SECONDS = 60;
/** Measured values are kept this often, however often it is asked. */
const READ_EVERY_MS = 300_000;

/** What came of a look. */
export type Looked =
  { readonly kind: 'heard'; readonly recorded: number } | { readonly kind: 'silent'; readonly trouble: Trouble };

/**
 * Asks a unit how it is, and makes of it what there is to make: what is certain is recorded by the watch, what is not
 * waits for a person, what is measured is kept. Whoever calls holds the unit (`takeDue`, `takeOne`).
 */
export async function look(app: App, watch: Watch): Promise<Looked> {
  try {
    const heard = await ask(app, watch);
    const recorded = await inTransaction(app.db, (tx) => takeIn(tx, app, watch, heard));
    if (isRefusal(recorded)) throw new Error(recorded.sentence);
    return { kind: 'heard', recorded };
  } catch (error) {
    if (error instanceof UnitTrouble) return silent(app, watch, error.trouble);
    await letGo(app.db, watch.unit);
    throw error;
  }
}

interface Heard {
  readonly gathered: Gathered;
  readonly fingerprint: string | null;
}

async function ask(app: App, watch: Watch): Promise<Heard> {
  const door = await doorOf(app, watch);
  try {
    await putOut(app, watch, door);
    const gathered = await gather(door, baseOf(watch.address));
    await beTold(app, watch, door);
    return { gathered, fingerprint: door.fingerprint() };
  } finally {
    door.close();
  }
}

/** Lights that have been on long enough go off. */
async function putOut(app: App, { unit, lit, seen }: Watch, door: UnitDoor): Promise<void> {
  const now = (await app.clock.now()).toISOString();
  for (const [bay, until] of Object.entries(lit)) {
    if (until > now) continue;
    const light = seen?.lights.find((one) => one.bay === bay);
    if (light) await door.ask('PATCH', light.path, { LocationIndicatorActive: false });
    await saveLight(app.db, unit, bay, null);
  }
}

/** The door of a watched unit, with the password that is kept for it. */
export async function doorOf(app: App, watch: Watch, bounds?: Parameters<typeof openDoor>[1]) {
  const password = app.seal.open(watch.secret, `${watch.unit} ${watch.address}`);
  if (password === null)
    throw new UnitTrouble({
      code: 'sealed-otherwise',
      sentence: 'Its password was sealed on another installation: set it again.',
    });
  const { address, userName, fingerprint } = watch;
  return openDoor({ address, userName, password, fingerprint, reach: await reachOf(app) }, bounds);
}

async function takeIn(tx: Transaction, app: App, watch: Watch, { gathered, fingerprint }: Heard): Promise<number> {
  const now = await app.clock.now();
  await hold(tx, [unitLedger(watch.unit)]);
  const unit = await unitById(tx, watch.unit);
  // Gone since it was asked, or out of use: nobody asks it any more.
  if (!unit || unit.state.retired) {
    await deleteWatch(tx, watch.unit);
    return 0;
  }
  const read = readRedfish(unit.state, gathered);
  const { certain, doubtful, saying } = believe(
    unit.state,
    read.observation,
    compareObservation(unit.state, read.observation),
    watch.seen?.saying ?? [],
  );
  const { recorded, refused } = await recordAll(tx, unit, certain, now);
  const seen: Seen = {
    bays: baysSeen(read),
    lights: read.lights,
    doubtful: [...refused, ...doubtful],
    impossible: read.impossible,
    saying,
  };
  const hasRead = watch.readAt === null || now.getTime() - Date.parse(watch.readAt) >= READ_EVERY_MS;
  await saveHeard(tx, watch, { seen, fingerprint, hasRead });
  if (hasRead) {
    const last = await lastKept(tx, unit.id);
    const at = now.toISOString();
    await addMeasured(
      tx,
      read.measured
        .filter(({ subject }) => subject in unit.state.pools || subject in unit.state.drives)
        .filter(({ subject, metric, value }) => isWorthKeeping(metric, value, last.get(`${subject} ${metric}`), at))
        .map((one) => ({ ...one, unit: unit.id, at })),
    );
  }
  const after = await unitById(tx, watch.unit);
  if (after) await projectReckoned(tx, after);
  return recorded.length;
}

/** All of it in one act; where the model refuses a part, one after another, and what is refused waits for a person. */
async function recordAll(
  tx: Transaction,
  { id }: StoredUnit,
  certain: readonly Contradiction[],
  now: Date,
): Promise<{ readonly recorded: readonly Contradiction[]; readonly refused: readonly Contradiction[] }> {
  if (certain.length === 0) return { recorded: [], refused: [] };
  const actOf = (of: readonly Contradiction[]): Act => ({
    kind: 'act',
    id: randomUUID(),
    by: WATCH,
    happenedAt: now.toISOString(),
    expects: [],
    entries: ofUnit(
      id,
      of.flatMap(({ events }) => events as readonly UnitEvent[]),
    ),
  });
  if (!isRefusal(await recordActIn(tx, actOf(certain)))) return { recorded: certain, refused: [] };
  const [recorded, refused]: [Contradiction[], Contradiction[]] = [[], []];
  for (const one of certain) {
    const no = await recordActIn(tx, actOf([one]));
    if (isRefusal(no)) refused.push({ ...one, events: [], sentence: `${one.sentence} ${no.sentence}` });
    else recorded.push(one);
  }
  return { recorded, refused };
}

function baysSeen({ observation }: ReadUnit): Seen['bays'] {
  return observation.bays.map(({ bay, serial, state, percent, isInWholePool }) => ({
    bay,
    ...(serial === undefined ? {} : { serial }),
    ...(state === undefined ? {} : { state }),
    ...(percent === undefined ? {} : { percent }),
    ...(isInWholePool === undefined ? {} : { isInWholePool }),
  }));
}

async function silent(app: App, watch: Watch, trouble: Trouble): Promise<Looked> {
  const saved = await saveSilent(app.db, watch, trouble);
  if (saved && saved.fails === FAILS_TOLD) {
    happened('unit-silent', { unit: watch.unit, trouble: trouble.code, since: saved.since });
    await inTransaction(app.db, async (tx) => {
      await hold(tx, [unitLedger(watch.unit)]);
      const unit = await unitById(tx, watch.unit);
      if (!unit || unit.state.retired) return undefined;
      await projectReckoned(tx, unit);
      return undefined;
    });
  }
  return { kind: 'silent', trouble };
}
