import type { FromSchema } from 'json-schema-to-ts';
import { randomUUID } from 'node:crypto';
import { isUuid } from '../../core/value/isUuid';
import { refusal, type Refusal } from '../../core/value/refusal';
import { changeOrganisationSchema, changePersonSchema, newPersonSchema, newTokenSchema } from '../../schemas/access';
import { isTimeZone } from '../../core/quantity/timeZone';
import { inTransaction } from '../ledgers/inTransaction';
import { reckonWaits } from '../ledgers/project';
import { organisation, saveOrganisation } from '../../store/organisation';
import { allPeople, changeRole, lockPerson, removePerson, type Person } from '../../store/people';
import { insertToken, revokeToken, tokensOf } from '../../store/tokens';
import type { App } from '../app';
import { armEntry } from './entry';
import { forgetLinksOf } from './entryPurpose';
import { hashOfKey, newKey } from './oneTimeKey';
import { about } from '../door/about';
import { operation, operationTaking } from '../door/operation';

/** Of one person: a program each, and some to change over. */
const MOST_TOKENS = 30;
/** How long somebody who was added has to choose a password. */
const JOIN_HOURS = 48;

const noPerson = refusal('not-found', 'There is no such person.');
const lastOwner = refusal('last-owner', 'Somebody has to stay owner: give the role to another person first.');

const aboutPerson = about(
  async ({ app, params: { id } }): Promise<Person | Refusal> =>
    (await allPeople(app.db)).find((person) => person.id === id) ?? noPerson,
);

const listPeople = operation({
  method: 'GET',
  path: '/people',
  summary: 'Everybody who may come in',
  needs: 'owner',
  scope: null,
  run: async ({ app }) => ({ people: await allPeople(app.db) }),
});

const addPerson = operationTaking<FromSchema<typeof newPersonSchema>>(newPersonSchema)({
  method: 'POST',
  path: '/people',
  summary: 'Add somebody; the answer holds a one-time link to hand over',
  needs: 'owner',
  scope: null,
  status: 201,
  run: async ({ app, body }) => {
    const email = body.email.toLowerCase();
    const known = await allPeople(app.db);
    if (known.some((person) => person.email === email))
      return refusal('name-taken', `${email} is in the list already.`, '/email');
    const { internalAdapter } = await app.auth.$context;
    const person = await internalAdapter.createUser(
      { name: body.name.trim(), email, emailVerified: false, role: body.role },
      { method: 'admin' },
    );
    return invited(app, person.id);
  },
});

/** A one-time link to hand over, and how long it opens the door. */
interface Invited {
  readonly id: string;
  readonly link: string;
  readonly hours: number;
}

async function invited({ auth, baseUrl }: App, id: string): Promise<Invited> {
  // One live link a person: whoever asks for another takes the first back.
  await forgetLinksOf((await auth.$context).adapter, id);
  const link = `${baseUrl}/enter?key=${await armEntry(auth, { kind: 'join', userId: id }, JOIN_HOURS)}`;
  return { id, link, hours: JOIN_HOURS };
}

const linkAgain = operation({
  method: 'POST',
  path: '/people/{id}/link',
  summary: 'A new one-time link for somebody to choose a password',
  needs: 'owner',
  scope: null,
  status: 201,
  run: aboutPerson(({ app }, person) => invited(app, person.id)),
});

const changePerson = operationTaking<FromSchema<typeof changePersonSchema>>(changePersonSchema)({
  method: 'PUT',
  path: '/people/{id}',
  summary: "Change somebody's role",
  needs: 'owner',
  scope: null,
  run: aboutPerson(async ({ app, body }, person) => {
    return (await changeRole(app.db, person.id, body.role)) ? { id: person.id, role: body.role } : lastOwner;
  }),
});

const removeFromList = operation({
  method: 'DELETE',
  path: '/people/{id}',
  summary: 'Remove somebody, with all sessions and tokens',
  needs: 'owner',
  scope: null,
  run: aboutPerson(async ({ app }, person) => {
    if (!(await removePerson(app.db, person.id))) return lastOwner;
    await forgetLinksOf((await app.auth.$context).adapter, person.id);
    return { id: person.id };
  }),
});

const endSessions = operation({
  method: 'DELETE',
  path: '/people/{id}/sessions',
  summary: 'End all sessions of somebody',
  needs: 'owner',
  scope: null,
  run: aboutPerson(async ({ app }, person) => {
    await (await app.auth.$context).internalAdapter.deleteUserSessions(person.id);
    return { id: person.id };
  }),
});

const listTokens = operation({
  method: 'GET',
  path: '/tokens',
  summary: 'Your own bearer tokens',
  needs: 'reader',
  scope: null,
  run: async ({ app, viewer }) => ({ tokens: await tokensOf(app.db, viewer.id) }),
});

const createToken = operationTaking<FromSchema<typeof newTokenSchema>>(newTokenSchema)({
  method: 'POST',
  path: '/tokens',
  summary: 'Make a bearer token; it is shown this once',
  needs: 'reader',
  scope: null,
  status: 201,
  run: async ({ app, viewer, body }) => {
    const token = `shelf_${newKey()}`;
    const id = randomUUID();
    return inTransaction(app.db, async (tx) => {
      await lockPerson(tx, viewer.id);
      if ((await tokensOf(tx, viewer.id)).length >= MOST_TOKENS)
        return refusal('too-many-of-yours', `You have ${String(MOST_TOKENS)} tokens: revoke one first.`);
      await insertToken(tx, {
        id,
        userId: viewer.id,
        name: body.name.trim(),
        hash: hashOfKey(token),
        scopes: body.scopes,
      });
      return { id, token };
    });
  },
});

const endToken = operation({
  method: 'DELETE',
  path: '/tokens/{id}',
  summary: 'Revoke one of your tokens',
  needs: 'reader',
  scope: null,
  run: async ({ app, viewer, params }) => {
    const id = params['id'] ?? '';
    const isThere = isUuid(id) && (await revokeToken(app.db, id, viewer.id));
    return isThere ? { id } : refusal('not-found', 'There is no such token of yours.');
  },
});

const changeOrganisation = operationTaking<FromSchema<typeof changeOrganisationSchema>>(changeOrganisationSchema)({
  method: 'PUT',
  path: '/organisation',
  summary: 'Change the name, the currency and the time zone of the organisation',
  needs: 'owner',
  scope: null,
  run: async ({ app, body }) => {
    const { timeZone, ...values } = body;
    if (timeZone != null && !isTimeZone(timeZone))
      return refusal('time-zone-unknown', `No time zone is called ${timeZone}: as “Europe/Berlin”.`, '/timeZone');
    return inTransaction(app.db, async (tx) => {
      const { timeZone: before, ...here } = await organisation(tx);
      const after = timeZone === undefined ? before : (timeZone ?? undefined);
      const zone = after === undefined ? {} : { timeZone: after };
      await saveOrganisation(tx, { ...here, ...values, name: values.name.trim(), ...zone });
      // Office hours are others now.
      if (after !== before) await reckonWaits(tx);
      return { ...values, ...zone };
    });
  },
});

export const access = [
  listPeople,
  addPerson,
  linkAgain,
  changePerson,
  removeFromList,
  endSessions,
  listTokens,
  createToken,
  endToken,
  changeOrganisation,
];
