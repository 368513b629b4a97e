import type { FromSchema } from 'json-schema-to-ts';
import { randomUUID } from 'node:crypto';
import { whyNotQuiet } from '../../core/tell/quietHours';
import { isUuid } from '../../core/value/isUuid';
import { refusal, type Refusal } from '../../core/value/refusal';
import {
  heartbeatSchema,
  mailServerSchema,
  newTellRuleSchema,
  seenSchema,
  tellRuleSchema,
  type NewMailServer,
  type NewTellRule,
} from '../../schemas/tell';
import { causeById, markSeen, markUnseen, openCauses } from '../../store/causes';
import { saveHeartbeatAddress } from '../../store/heartbeat';
import { organisation } from '../../store/organisation';
import { deleteMailServer, mailServer, saveMailServer } from '../../store/outgoing';
import { allPeople, lockPerson } from '../../store/people';
import {
  deleteRule,
  ruleById,
  saveRule,
  saveTested,
  takeTest,
  tellRules,
  type NewRule,
  type StoredRule,
} from '../../store/tellRules';
import type { App } from '../app';
import { newKey } from '../access/oneTimeKey';
import { mayAct } from '../access/viewer';
import { about } from '../door/about';
import { operation, operationTaking } from '../door/operation';
import { inTransaction } from '../ledgers/inTransaction';
import { aboutServer, sendMail } from './mail';
import { whyNotCalled } from './outDoor';
import { readHeartbeat, readMailServer, readTellRules } from './readTelling';
import { post } from './tellAll';

/** Rules for one person, and webhooks: more have no use, and each costs a mail or a call. */
const [MOST_MAILS, MOST_HOOKS] = [12, 40];
const TEST_EVERY_SECONDS = 10;

const noRule = refusal('not-found', 'There is no such rule.');
const notYours = refusal('not-allowed', 'Who else is told, an owner decides.');

const aboutRule = about(async ({ app, viewer, params: { id } }): Promise<StoredRule | Refusal> => {
  const rule = isUuid(id) ? await ruleById(app.db, id) : undefined;
  // Whose it is says nothing to somebody else.
  return rule && (mayAct(viewer, 'owner') || rule.userId === viewer.id) ? rule : noRule;
});

const listRules = operation({
  method: 'GET',
  path: '/tell-rules',
  summary: 'Who is told of what; only an owner sees those of others',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, viewer }) => ({ rules: await readTellRules(app, viewer) }),
});

const addRule = operationTaking<NewTellRule>(newTellRuleSchema)({
  method: 'POST',
  path: '/tell-rules',
  summary: 'Have somebody told: by mail, or by a signed webhook, whose key is shown this once',
  needs: 'reader',
  scope: null,
  status: 201,
  run: async ({ app, viewer, body }) => {
    const { channel, person, address, sites = [], least, quiet = null, repeatHours = null, isOn = true } = body;
    const wrong = whyNotQuiet(quiet);
    if (wrong) return wrong;
    const isOwner = mayAct(viewer, 'owner');
    if (!isOwner && (channel === 'webhook' || (person !== undefined && person !== viewer.id))) return notYours;
    const rule = { id: randomUUID(), sites, least, quiet, repeatHours, isOn, setBy: viewer.name };
    if (channel === 'mail') {
      if (address !== undefined) return refusal('no-address', 'A mail goes to the e-mail of its person.', '/address');
      const userId = person ?? viewer.id;
      if (!(await allPeople(app.db)).some(({ id }) => id === userId))
        return refusal('not-found', 'There is no such person.', '/person');
      return addedOf(app, userId, { ...rule, userId, channel, address: null, secret: null }, null);
    }
    if (person !== undefined) return refusal('no-person', 'A webhook is nobody’s.', '/person');
    const { isDemo } = await organisation(app.db);
    const why = whyNotCalled(address ?? '', isDemo, '/address');
    if (why) return why;
    const key = newKey();
    const secret = app.seal.close(key, `webhook ${rule.id}`);
    return addedOf(app, null, { ...rule, userId: null, channel, address: address ?? '', secret }, key);
  },
});

/** Adds a rule where whoever it is for has not as many as may be: nobody uses up what others need. */
function addedOf(app: App, userId: string | null, rule: NewRule, key: string | null) {
  return inTransaction(app.db, async (tx) => {
    await lockPerson(tx, userId ?? 'webhooks');
    const [rules, most] = [
      (await tellRules(tx)).filter((one) => one.userId === userId),
      userId ? MOST_MAILS : MOST_HOOKS,
    ];
    if (rules.length >= most)
      return refusal(
        'too-many-of-yours',
        `There are ${String(most)} ${userId ? 'rules for this person' : 'webhooks'} already: remove one first.`,
      );
    await saveRule(tx, rule);
    return { id: rule.id, key };
  });
}

const changeRule = operationTaking<FromSchema<typeof tellRuleSchema>>(tellRuleSchema)({
  method: 'PUT',
  path: '/tell-rules/{id}',
  summary: 'Change of what somebody is told, and when',
  needs: 'reader',
  scope: null,
  run: aboutRule(async ({ app, viewer, body }, rule) => {
    const wrong = whyNotQuiet(body.quiet);
    if (wrong) return wrong;
    await saveRule(app.db, { ...rule, ...body, setBy: viewer.name });
    return { id: rule.id };
  }),
});

const removeRule = operation({
  method: 'DELETE',
  path: '/tell-rules/{id}',
  summary: 'Tell somebody no longer',
  needs: 'reader',
  scope: null,
  run: aboutRule(async ({ app }, rule) => {
    await deleteRule(app.db, rule.id);
    return { id: rule.id };
  }),
});

const testRule = operation({
  method: 'POST',
  path: '/tell-rules/{id}/test',
  summary: 'Send a test by a rule; whether a mail has arrived, whoever it is for says',
  needs: 'reader',
  scope: null,
  run: aboutRule(async ({ app, viewer, now }, rule) => {
    if (!(await takeTest(app.db, rule.id, TEST_EVERY_SECONDS)))
      return refusal('too-much-at-once', 'A test was sent a moment ago: give it time to arrive.');
    const why =
      rule.channel === 'webhook'
        ? await post(app, rule, JSON.stringify({ kind: 'test', messages: [] }))
        : await sendMail(app, {
            to: rule.address,
            subject: 'Test: the shelf reaches you',
            text: `${viewer.name} has sent this to see whether messages of the shelf arrive.\n\nIt has arrived? Say so: ${app.baseUrl}/settings?view=told\n`,
            key: `test ${rule.id} ${now.toISOString()}`,
          });
    if (why !== null) return refusal('not-told', why);
    if (rule.channel === 'webhook') await saveTested(app.db, rule.id);
    return { to: rule.address, hasArrived: rule.channel === 'webhook' };
  }),
});

const arrived = operation({
  method: 'POST',
  path: '/tell-rules/{id}/arrived',
  summary: 'The test mail of a rule has arrived',
  needs: 'reader',
  scope: null,
  run: aboutRule(async ({ app }, rule) => {
    await saveTested(app.db, rule.id);
    return { id: rule.id };
  }),
});

const listCauses = operation({
  method: 'GET',
  path: '/causes',
  summary: 'What people are told of while it lasts, one for each cause, with who has seen it',
  needs: 'reader',
  scope: 'read',
  run: async ({ app }) => ({ causes: await openCauses(app.db) }),
});

const noCause = refusal('not-found', 'There is no such cause, or it is over.');

const see = operationTaking<FromSchema<typeof seenSchema>>(seenSchema)({
  method: 'POST',
  path: '/causes/{id}/seen',
  summary: 'Somebody has seen it and looks after it: nobody is told again, unless it gets worse',
  needs: 'keeper',
  scope: 'write',
  run: async ({ app, viewer, params, body }) => {
    const { id = '' } = params;
    if (!isUuid(id)) return noCause;
    const changedAt = Date.parse(body.changedAt ?? '');
    if (Number.isNaN(changedAt)) return refusal('no-moment', 'This is no moment there is.', '/changedAt');
    if (await markSeen(app.db, id, new Date(changedAt).toISOString(), viewer.name)) return { id };
    const cause = await causeById(app.db, id);
    return cause?.closedAt === null
      ? refusal('version-conflict', 'It got worse meanwhile: look again.', '/changedAt')
      : noCause;
  },
});

const unsee = operation({
  method: 'DELETE',
  path: '/causes/{id}/seen',
  summary: 'It has not been seen after all',
  needs: 'keeper',
  scope: 'write',
  run: async ({ app, params: { id = '' } }) => (isUuid(id) && (await markUnseen(app.db, id)) ? { id } : noCause),
});

const getServer = operation({
  method: 'GET',
  path: '/mail-server',
  summary: 'The mail server messages go out by, without its password',
  needs: 'owner',
  scope: null,
  run: async ({ app }) => ({ server: await readMailServer(app) }),
});

const HERE = /^(localhost|127(\.\d{1,3}){3}|::1)$/i;

const putServer = operationTaking<NewMailServer>(mailServerSchema)({
  method: 'PUT',
  path: '/mail-server',
  summary: 'Set the mail server messages go out by',
  needs: 'owner',
  scope: null,
  run: async ({ app, viewer, body }) => {
    const { host, port, security, user = '', password, sender } = body;
    if (security === 'none' && user !== '' && !HERE.test(host))
      return refusal('not-encrypted', 'Its password would travel open: choose TLS or STARTTLS.', '/security');
    const before = await mailServer(app.db);
    const isSame = before?.host === host && before.port === port;
    if (user !== '' && password === undefined && !(isSame && before.secret !== null))
      return refusal('no-password', 'At another server the password is asked for again.', '/password');
    const secret =
      user === ''
        ? null
        : password === undefined
          ? (before?.secret ?? null)
          : app.seal.close(password, aboutServer({ host, port }));
    await saveMailServer(app.db, {
      host,
      port,
      security,
      userName: user === '' ? null : user,
      secret,
      sender,
      setBy: viewer.name,
    });
    return { server: await readMailServer(app) };
  },
});

const dropServer = operation({
  method: 'DELETE',
  path: '/mail-server',
  summary: 'Forget the mail server: nobody is told by mail any more',
  needs: 'owner',
  scope: null,
  run: async ({ app }) =>
    (await deleteMailServer(app.db)) ? { forgotten: true } : refusal('not-found', 'No mail server is set.'),
});

const getHeartbeat = operation({
  method: 'GET',
  path: '/heartbeat',
  summary: 'When what listens and tells last gave a sign of life, and whom it tells so',
  needs: 'owner',
  scope: null,
  run: ({ app }) => readHeartbeat(app),
});

const putHeartbeat = operationTaking<FromSchema<typeof heartbeatSchema>>(heartbeatSchema)({
  method: 'PUT',
  path: '/heartbeat',
  summary: 'An address outside that is called every minute; somebody there notices when it is not',
  needs: 'owner',
  scope: null,
  run: async ({ app, body: { address } }) => {
    const { isDemo } = await organisation(app.db);
    const why = address === null ? undefined : whyNotCalled(address, isDemo, '/address');
    if (why) return why;
    await saveHeartbeatAddress(app.db, address);
    return readHeartbeat(app);
  },
});

export const tellOperations = [
  listRules,
  addRule,
  changeRule,
  removeRule,
  testRule,
  arrived,
  listCauses,
  see,
  unsee,
  getServer,
  putServer,
  dropServer,
  getHeartbeat,
  putHeartbeat,
];
