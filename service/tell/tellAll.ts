import { asMail, inOrder, pageOf } from '../../core/tell/asMail';
import { dueTogether, isDue, type ToTell } from '../../core/tell/isDue';
import { allToTell } from '../../store/causes';
import { organisation } from '../../store/organisation';
import {
  allTold,
  letGoOfRule,
  ruleById,
  savePending,
  saveTold,
  saveTrouble,
  takeRule,
  tellRules,
  toldKey,
  type StoredRule,
  type Telling,
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
  const anyDue = rules.filter((rule) => rule.pending !== null || dueFor(rule, all, told, now).length > 0);
  const came = await Promise.all(anyDue.map(({ id }) => tellBy(app, id, all)));
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
  const due = dueTogether(all, rule, (id) => told.get(toldKey(rule.id, id)), now.toISOString());
  return inOrder(due).slice(0, AT_ONCE);
}

type Came = 'told' | 'not-now' | { readonly why: string };

async function tellBy(app: App, id: string, all: readonly ToTell[]): Promise<Came> {
  if (!(await takeRule(app.db, id, HELD_SECONDS))) return 'not-now';
  try {
    // Looked at again: somebody else may have told by it between.
    const rule = await ruleById(app.db, id);
    const telling = rule && (rule.pending ?? (await nextTelling(app, rule, all)));
    if (!telling) {
      await letGoOfRule(app.db, id);
      return 'not-now';
    }
    const why = await hand(app, rule, telling);
    if (why === null) {
      await saveTold(app.db, id, telling.told);
      return 'told';
    }
    await saveTrouble(app.db, id, why);
    return { why: `${rule.address}: ${why}` };
  } catch (error) {
    await letGoOfRule(app.db, id);
    throw error;
  }
}

/** What is to be told by a rule now, kept before it is told: whoever dies meanwhile leaves it to be told once more, the same. */
async function nextTelling(app: App, rule: StoredRule, all: readonly ToTell[]): Promise<Telling | undefined> {
  const now = await app.clock.now();
  const due = dueFor(rule, all, await allTold(app.db, rule.id), now);
  if (due.length === 0) return undefined;
  const telling = tellingOf(app, rule, due, now);
  await savePending(app.db, rule.id, telling);
  return telling;
}

function tellingOf(app: App, { id, channel }: StoredRule, due: readonly ToTell[], now: Date): Telling {
  return {
    told: due.map((one) => ({ about: one.id, changedAt: one.changedAt })),
    ...(channel === 'mail' ? asMail(due, app.baseUrl) : { subject: '', text: asPost(app, due) }),
    key: `${id} ${now.toISOString()}`,
  };
}

/** Tells everybody of one thing, here and now; nothing is kept of it. @returns why some were not told */
export async function tellEverybody(app: App, one: ToTell): Promise<string[]> {
  const now = await app.clock.now();
  const rules = (await tellRules(app.db)).filter(
    (rule) => rule.isOn && isDue(one, { ...rule, sites: [] }, undefined, now.toISOString()),
  );
  const came = await Promise.all(rules.map((rule) => hand(app, rule, tellingOf(app, rule, [one], now))));
  return came.filter((why) => why !== null);
}

/** Hands it over by the rule's way. @returns why it did not go through, as a sentence */
function hand(app: App, rule: StoredRule, { subject, text, key }: Telling): Promise<string | null> {
  return rule.channel === 'mail' ? sendMail(app, { to: rule.address, subject, text, key }) : post(app, rule, text);
}

function asPost(app: App, due: readonly ToTell[]): string {
  return JSON.stringify({
    kind: 'messages',
    messages: due.map(({ changedAt, seenAt: _seenAt, ...one }) => ({
      ...one,
      since: changedAt,
      address: pageOf(app.baseUrl, one.unit),
    })),
  });
}

/** A signed post to a rule's address. @returns why it did not go through, as a sentence */
export async function post(app: App, { id, address, secret }: StoredRule, body: string): Promise<string | null> {
  const key = secret === null ? null : app.seal.open(secret, `webhook ${id}`);
  if (key === null) return 'Its key was sealed on another installation: set the webhook up again.';
  const { isDemo } = await organisation(app.db);
  const seconds = Math.floor((await app.clock.now()).getTime() / 1000);
  return call(address, isDemo, { body, headers: signed(body, key, seconds) });
}
