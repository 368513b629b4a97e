import { canonicalJson } from '../../core/value/canonicalJson';
import { actsAfter } from '../../store/acts';
import { allComparisons } from '../../store/comparisons';
import { snapshotOf, type Transaction } from '../../store/database';
import { allFeeds } from '../../store/feeds';
import { listOrders } from '../../store/orders';
import { organisation } from '../../store/organisation';
import { paperById } from '../../store/papers';
import { priceList } from '../../store/prices';
import { ownProfiles } from '../../store/profiles';
import { allReadings, paperIds } from '../../store/takeAway';
import { mailRules } from '../../store/tellRules';
import { testedModels } from '../../store/testedModels';
import type { App } from '../app';
import { asTaken } from '../ledgers/whyNotKept';

/** The whole shelf as it is at one moment, as one JSON document that is written as it is read. */
export async function* wholeShelf({ db }: App, now: Date): AsyncGenerator<string> {
  const { at, end } = await snapshotOf(db);
  try {
    yield* wholeShelfAt(at, now);
  } finally {
    // Whoever stops reading ends it too.
    await end();
  }
}

async function* wholeShelfAt(db: Transaction, now: Date): AsyncGenerator<string> {
  yield `{"format":"patient-shelf-export","version":2,"exportedAt":${JSON.stringify(now.toISOString())}`;
  const { name, currency, timeZone } = await organisation(db);
  if (name !== '') yield `,\n"organisation":${JSON.stringify({ name, currency, timeZone })}`;
  yield* wholeActs(db);
  yield* list('orders', await listOrders(db), ({ received: _received, ...order }) => order);
  yield* list('profiles', await ownProfiles(db), (profile) => profile);
  yield* list('testedModels', await testedModels(db), (model) => model);
  const kept = await priceList(db);
  if (kept) yield `,\n"prices":${canonicalJson({ list: kept.body, setBy: kept.setBy, setAt: kept.setAt })}`;
  yield* list('comparisons', await allComparisons(db), ({ id, body, keptBy, keptAt }) => ({
    id,
    comparison: body,
    keptBy,
    keptAt,
  }));
  yield* list('calendars', await allFeeds(db), (feed) => feed);
  yield* list('rules', await mailRules(db), (rule) => rule);
  yield* list('papers', await paperIds(db), async (id) => {
    const paper = await paperById(db, id);
    if (!paper) return undefined;
    const { unit, serial, name, bytes, addedBy, addedAt } = paper;
    return { id, unit, serial, name, base64: bytes.toString('base64'), addedBy, addedAt };
  });
  yield ',\n"readings":[';
  let piece = '';
  let isFirst = true;
  for await (const { unit, subject, metric, at, value } of allReadings(db)) {
    piece += `${isFirst ? '\n' : ',\n'}${JSON.stringify([unit, subject, metric, at, value])}`;
    isFirst = false;
    if (piece.length > 60_000) {
      yield piece;
      piece = '';
    }
  }
  yield `${piece}]}\n`;
}

/** Every act in the order they were recorded, so many at a time. */
async function* wholeActs(db: Transaction): AsyncGenerator<string> {
  yield ',\n"acts":[';
  let [n, isFirst] = [0, true];
  for (;;) {
    const acts = await actsAfter(db, n, ACTS);
    for (const { takesBack, entries: written, recordedAt, ...act } of acts) {
      const { entries, ...head } = asTaken({ act, written }, recordedAt);
      yield `${isFirst ? '\n' : ',\n'}${canonicalJson({ ...head, ...(takesBack === null ? {} : { takesBack }), entries })}`;
      isFirst = false;
    }
    n = acts.at(-1)?.n ?? n;
    if (acts.length < ACTS) break;
  }
  yield ']';
}

const ACTS = 500;

async function* list<T>(name: string, items: readonly T[], write: (item: T) => unknown): AsyncGenerator<string> {
  yield `,\n"${name}":[`;
  let isFirst = true;
  for (const item of items) {
    const written = await write(item);
    if (written === undefined) continue;
    yield `${isFirst ? '\n' : ',\n'}${canonicalJson(written)}`;
    isFirst = false;
  }
  yield ']';
}
