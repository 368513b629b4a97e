import { asMail, inOrder, pageOf } from '../../core/tell/asMail';
import { isDue, type ToTell } from '../../core/tell/isDue';
import { allToTell } from '../../store/causes';
import { organisation } from '../../store/organisation';
import {
  allTold,
  letGoOfRule,
  saveTold,
  saveTrouble,
  takeRule,
  tellRules,
  toldKey,
  type StoredRule,
} from '../../store/tellRules';
import type { App } from '../app';
import { sendMail } from './mail';
import { call } from './outDoor';
import { signed } from './signed';

/** So long somebody may be at telling by one rule, seconds: longer than it can take. */
const HELD_SECONDS = 90;
/** As much is told at one time; the rest the next. */
const AT_ONCE = 50;

/** What came of it: how many rules were told by, and why others were not. */
export interface ToldAll {
  readonly told: number;
  readonly refused: readonly string[];
}

/**
 * Tells everybody who is to be told of something now: all of it at one time to each, and each by itself, so that one that is
 * refused keeps nobody else waiting. Any number of processes may do so at once.
 */
export async function tellAll(app: App): Promise<ToldAll> {
  const rules = (await tellRules(app.db)).filter(({ isOn }) => isOn);
  if (rules.length === 0) return { told: 0, refused: [] };
  const [all, told, now] = await Promise.all([allToTell(app.db), allTold(app.db), app.clock.now()]);
  const anyDue = rules.filter((rule) => dueFor(rule, all, told, now).length > 0);
  const came = await Promise.all(anyDue.map((rule) => tellBy(app, rule, all)));
  return {
    told: came.filter((one) => one === 'told').length,
    refused: came.flatMap((one) => (one === 'told' || one === 'not-now' ? [] : [one.why])),
  };
}

function dueFor(
  rule: StoredRule,
  all: readonly ToTell[],
  told: Awaited<ReturnType<typeof allTold>>,
  now: Date,
): ToTell[] {
  return inOrder(all.filter((one) => isDue(one, rule, told.get(toldKey(rule.id, one.id)), now.toISOString()))).slice(
    0,
    AT_ONCE,
  );
}

type Came = 'told' | 'not-now' | { readonly why: string };

async function tellBy(app: App, rule: StoredRule, all: readonly ToTell[]): Promise<Came> {
  if (!(await takeRule(app.db, rule.id, HELD_SECONDS))) return 'not-now';
  try {
    // Looked at again: somebody else may have told of it between.
    const told = await allTold(app.db, rule.id);
    const due = dueFor(rule, all, told, await app.clock.now());
    if (due.length === 0) {
      await letGoOfRule(app.db, rule.id);
      return 'not-now';
    }
    const before = due.map(({ id }) => told.get(toldKey(rule.id, id))?.at ?? '');
    const why = await hand(app, rule, due, before);
    if (why === null) {
      await saveTold(
        app.db,
        rule.id,
        due.map(({ id, changedAt }) => ({ about: id, changedAt })),
      );
      return 'told';
    }
    await saveTrouble(app.db, rule.id, why);
    return { why: `${rule.address}: ${why}` };
  } catch (error) {
    await letGoOfRule(app.db, rule.id);
    throw error;
  }
}

/** Tells everybody of one thing, here and now; nothing is kept of it. @returns why some were not told */
export async function tellEverybody(app: App, one: ToTell): Promise<string[]> {
  const now = (await app.clock.now()).toISOString();
  const rules = (await tellRules(app.db)).filter(
    (rule) => rule.isOn && isDue(one, { ...rule, sites: [] }, undefined, now),
  );
  const came = await Promise.all(rules.map((rule) => hand(app, rule, [one], [now])));
  return came.filter((why) => why !== null);
}

/**
 * Hands it over by the rule's way.
 *
 * @param before when each was told last: a repeat is another mail than the first
 * @returns why it did not go through, as a sentence
 */
async function hand(
  app: App,
  rule: StoredRule,
  due: readonly ToTell[],
  before: readonly string[],
): Promise<string | null> {
  if (rule.channel === 'mail')
    return sendMail(app, {
      ...asMail(due, app.baseUrl),
      to: rule.address,
      key: [rule.id, ...due.flatMap(({ id, changedAt }) => [id, changedAt]), ...before].join(' '),
    });
  return post(app, rule, {
    kind: 'messages',
    messages: due.map(({ id, kind, unit, unitName, site, severity, title, reason, others, changedAt }) => ({
      id,
      kind,
      unit,
      unitName,
      site,
      severity,
      title,
      reason,
      others,
      since: changedAt,
      address: pageOf(app.baseUrl, unit),
    })),
  });
}

/** A signed post to a rule's address. @returns why it did not go through, as a sentence */
export async function post(app: App, { id, address, secret }: StoredRule, what: object): Promise<string | null> {
  const key = secret === null ? null : app.seal.open(secret, `webhook ${id}`);
  if (key === null) return 'Its key was sealed on another installation: set the webhook up again.';
  const body = JSON.stringify(what);
  const { isDemo } = await organisation(app.db);
  const seconds = Math.floor((await app.clock.now()).getTime() / 1000);
  return call(address, isDemo, { body, headers: signed(body, key, seconds) });
}
