import type { FromSchema } from 'json-schema-to-ts';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { panelSchema, type PanelDoing } from '../../schemas/panel';
import { fingerprintSchema, lightSchema, watchSchema, type WatchWish } from '../../schemas/watch';
import { organisation } from '../../store/organisation';
import { unitById, type StoredUnit } from '../../store/units';
import {
  acceptFingerprint,
  deleteWatch,
  saveLight,
  saveWatch,
  takeOne,
  watchOf,
  type Seen,
  type Trouble,
  type Watch,
} from '../../store/watches';
import type { App } from '../app';
import { about } from '../door/about';
import { operation, operationTaking } from '../door/operation';
import { inTransaction } from '../ledgers/inTransaction';
import { projectReckoned } from '../ledgers/project';
import { aboutUnit, findUnit } from '../units/findUnit';
import { baseOf } from './baseOf';
import { beToldNoMore } from './beTold';
import { doorOf, HELD_SECONDS, look } from './look';
import { reachOf, whyNotAddress } from './nearby';
import { UnitTrouble, type UnitDoor } from './unitDoor';

const USUAL_SECONDS = 60;
/** A locate light goes off again by itself after a quarter of an hour: nobody has to think of it. */
const LIT_MS = 900_000;

/** A watched unit as it is shown: without its password. */
export interface ShownWatch {
  readonly address: string;
  readonly user: string;
  readonly everySeconds: number;
  readonly isOn: boolean;
  /** SHA-256 of its certificate; `null` before it was first heard, and without encryption. */
  readonly fingerprint: string | null;
  readonly askedAt: string | null;
  readonly heardAt: string | null;
  /** It tells by itself when something happens, and how often it has. */
  readonly tells: boolean;
  readonly events: number;
  /** How old what it said is. */
  readonly heardSecondsAgo: number | null;
  readonly silentSince: string | null;
  readonly trouble: Trouble | null;
  readonly bays: Seen['bays'];
  /** Bays whose locate light can be switched, and whether it is on. */
  readonly lights: readonly { readonly bay: string; readonly isOn: boolean; readonly until?: string }[];
  readonly doubtful: Seen['doubtful'];
  readonly impossible: readonly string[];
}

function shown(
  {
    address,
    userName,
    everySeconds,
    isOn,
    fingerprint,
    askedAt,
    heardAt,
    silentSince,
    trouble,
    seen,
    lit,
    subscription,
    events,
  }: Watch,
  now: Date,
): ShownWatch {
  return {
    address,
    user: userName,
    everySeconds,
    isOn,
    fingerprint,
    askedAt,
    heardAt,
    tells: subscription !== null && subscription !== '',
    events,
    heardSecondsAgo: heardAt === null ? null : Math.max(0, (now.getTime() - Date.parse(heardAt)) / 1000),
    silentSince,
    trouble,
    bays: seen?.bays ?? [],
    lights:
      seen?.lights.map(({ bay, isOn }) => ({ bay, isOn, ...(lit[bay] === undefined ? {} : { until: lit[bay] }) })) ??
      [],
    doubtful: seen?.doubtful ?? [],
    impossible: seen?.impossible ?? [],
  };
}

/** The watch of a unit, with the version the unit has by now. */
export interface WatchAnswer {
  readonly version: number;
  readonly watch: ShownWatch | null;
}

async function readWatch(app: App, { id }: Pick<StoredUnit, 'id'>): Promise<WatchAnswer> {
  const watch = await readShownWatch(app, id);
  const unit = await unitById(app.db, id);
  return { version: unit?.version ?? 0, watch };
}

/** How a unit is watched, as a page shows it; `null` where it is not. */
export async function readShownWatch(app: App, unit: string): Promise<ShownWatch | null> {
  const watch = await watchOf(app.db, unit);
  return watch ? shown(watch, await app.clock.now()) : null;
}

const get = operation({
  method: 'GET',
  path: '/units/{id}/watch',
  summary: 'Where a unit is asked how it is, and what it said last',
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(({ app }, unit) => readWatch(app, unit)),
});

const put = operationTaking<WatchWish>(watchSchema)({
  method: 'PUT',
  path: '/units/{id}/watch',
  summary: 'Ask a unit how it is from now on; it is asked once at once',
  needs: 'owner',
  scope: 'write',
  run: aboutUnit(async ({ app, body, viewer }, unit) => {
    if (unit.state.retired) return refusal('retired', `${unit.state.name} was retired.`);
    const no = whyNotAddress(body.address, await reachOf(app));
    if (no) return no;
    const before = await watchOf(app.db, unit.id);
    const address = body.address.replace(/\/+$/, '');
    const about = `${unit.id} ${address}`;
    // A kept password goes to the unit it was given for, and to no other.
    const goesOn = before?.address === address && before.userName === body.user;
    if (body.password === undefined && !goesOn)
      return refusal('password-missing', 'With another address or user the password is given again.', '/password');
    await saveWatch(app.db, {
      unit: unit.id,
      address,
      userName: body.user,
      secret: body.password === undefined && before ? before.secret : app.seal.close(body.password ?? '', about),
      fingerprint: before?.address === address ? before.fingerprint : null,
      everySeconds: body.everySeconds ?? before?.everySeconds ?? USUAL_SECONDS,
      isOn: body.isOn ?? true,
      setBy: viewer.name,
    });
    if (body.isOn !== false) await lookOnce(app, unit.id);
    return readWatch(app, unit);
  }),
});

/** A unit and how it is asked. */
interface Watched {
  readonly unit: StoredUnit;
  readonly watch: Watch;
}

/** An operation about the unit of its path, where it is watched. */
const aboutWatched = about(async ({ app, params }): Promise<Watched | Refusal> => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) return unit;
  const watch = await watchOf(app.db, unit.id);
  return watch ? { unit, watch } : notWatched(unit);
});

const looks = operation({
  method: 'POST',
  path: '/units/{id}/watch/looks',
  summary: 'Ask a watched unit now',
  needs: 'keeper',
  scope: 'write',
  run: aboutWatched(async ({ app }, found) => {
    await lookOnce(app, found.unit.id);
    return readWatch(app, found.unit);
  }),
});

/** Goes to a unit for something, and says in its words why that did not work. */
async function atDoor(
  app: App,
  watch: Watch,
  does: (door: UnitDoor) => Promise<unknown>,
): Promise<Refusal | undefined> {
  try {
    const door = await doorOf(app, watch);
    try {
      await does(door);
      return undefined;
    } finally {
      door.close();
    }
  } catch (error) {
    if (error instanceof UnitTrouble) return refusal('unit-silent', error.trouble.sentence);
    throw error;
  }
}

/** Asks it, unless somebody is doing so this moment: then that answer is as good. */
async function lookOnce(app: App, unit: string): Promise<void> {
  const held = await takeOne(app.db, unit, HELD_SECONDS);
  if (held) await look(app, held);
}

const accept = operationTaking<FromSchema<typeof fingerprintSchema>>(fingerprintSchema)({
  method: 'POST',
  path: '/units/{id}/watch/certificates',
  summary: 'Accept the other certificate a watched unit shows, having compared its fingerprint at the unit',
  needs: 'owner',
  scope: 'write',
  run: aboutWatched(async ({ app, body }, { unit, watch }) => {
    if (watch.trouble?.fingerprint !== body.fingerprint)
      return refusal('other-fingerprint', 'That is not the certificate it showed last: look again.', '/fingerprint');
    await acceptFingerprint(app.db, unit.id, body.fingerprint);
    await lookOnce(app, unit.id);
    return readWatch(app, unit);
  }),
});

const light = operationTaking<FromSchema<typeof lightSchema>>(lightSchema)({
  method: 'POST',
  path: '/units/{id}/watch/lights',
  summary: 'Switch the locate light of a bay on or off, where the unit has one',
  needs: 'keeper',
  scope: 'write',
  run: aboutWatched(async ({ app, body, now }, { unit, watch }) => {
    const known = watch.seen?.lights.find(({ bay }) => bay === body.bay);
    if (!known)
      return refusal(
        'no-light',
        `${unit.state.name} tells of no light that can be switched at bay ${body.bay}.`,
        '/bay',
      );
    const no = await atDoor(app, watch, (door) => door.ask('PATCH', known.path, { LocationIndicatorActive: body.on }));
    if (no) return no;
    await saveLight(app.db, unit.id, body.bay, body.on ? new Date(now.getTime() + LIT_MS) : null);
    await lookOnce(app, unit.id);
    return readWatch(app, unit);
  }),
});

const panel = operationTaking<PanelDoing>(panelSchema)({
  method: 'POST',
  path: '/units/{id}/watch/panel',
  summary: 'Do something to a simulated unit of the demo: the other side of it',
  needs: 'owner',
  scope: 'write',
  run: aboutWatched(async ({ app, body }, { unit, watch }) => {
    if (!(await isSimulated(app, watch)))
      return refusal('not-simulated', `${unit.state.name} is no simulated unit of a demo.`);
    const no = await atDoor(app, watch, (door) => door.ask('POST', `/panel${baseOf(watch.address)}`, body));
    return no ?? { done: true };
  }),
});

/** True for a unit of the demo's own, which stands on this machine: things can be done to it. */
export async function isSimulated(app: App, { address }: Pick<Watch, 'address'>): Promise<boolean> {
  return new URL(address).hostname === '127.0.0.1' && (await organisation(app.db)).isDemo;
}

const remove = operation({
  method: 'DELETE',
  path: '/units/{id}/watch',
  summary: 'Ask a unit no more; its password is forgotten',
  needs: 'owner',
  scope: 'write',
  run: aboutWatched(async ({ app }, { unit, watch }) => {
    await leaveIt(app, watch);
    const gone = await inTransaction(app.db, async (tx) => {
      await deleteWatch(tx, unit.id);
      const now = await unitById(tx, unit.id);
      if (now) await projectReckoned(tx, now);
      return undefined;
    });
    return isRefusal(gone) ? gone : readWatch(app, unit);
  }),
});

/** Says goodbye to a unit, where it answers. */
async function leaveIt(app: App, watch: Watch): Promise<void> {
  try {
    const door = await doorOf(app, watch, GOODBYE);
    await beToldNoMore(watch, door);
    door.close();
  } catch (error) {
    if (!(error instanceof UnitTrouble)) throw error;
  }
}

const GOODBYE = { answerMs: 2000, wholeMs: 2000 } as const;

function notWatched({ state }: StoredUnit): Refusal {
  return refusal('not-watched', `${state.name} is not watched.`);
}

export const watchOperations = [get, put, looks, accept, light, panel, remove];
