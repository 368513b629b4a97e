import type { FromSchema } from 'json-schema-to-ts';
import type { Contradiction } from '../../core/observe/compareObservation';
import { letterAgainst } from '../../core/observe/readLetter';
import { isUuid } from '../../core/value/isUuid';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { unitLedger } from '../../core/world/ledger';
import { letterAboutSchema, MOST_LETTER_CHARACTERS, newLetterSchema, type NewLetterText } from '../../schemas/letter';
import type { Transaction } from '../../store/database';
import { letterById, letterIsAbout, newestLetters, settleLetter, type StoredLetter } from '../../store/letters';
import { unitById } from '../../store/units';
import type { App } from '../app';
import { operation, operationTaking } from '../door/operation';
import { inTransaction } from '../ledgers/inTransaction';
import { projectReckoned } from '../ledgers/project';
import { hold } from '../ledgers/recordAct';
import { findUnit } from '../units/findUnit';
import { isMail, mailsIn } from './readMail';
import { takeLetter, type Taken } from './takeLetter';

const MOST_SHOWN = 100;
const MOST_AT_ONCE = 300;

/** A mail as it is shown, with what it says otherwise than the record, as long as nobody has settled it. */
export interface ShownLetter extends StoredLetter {
  readonly unitName: string | null;
  /** Of the unit's ledger, to settle it with. */
  readonly version: number | null;
  readonly found: readonly Contradiction[];
}

/** The newest mails, of one unit or of all. */
export async function readLetters(app: App, unit?: string): Promise<ShownLetter[]> {
  const letters = await newestLetters(app.db, MOST_SHOWN, unit);
  const units = new Map(
    await Promise.all(
      [...new Set(letters.flatMap((one) => one.unit ?? []))].map(
        async (id) => [id, await unitById(app.db, id)] as const,
      ),
    ),
  );
  return letters.map((letter) => {
    const of = letter.unit === null ? undefined : units.get(letter.unit);
    return {
      ...letter,
      unitName: of?.state.name ?? null,
      version: of?.version ?? null,
      found: of && letter.settledAt === null ? letterAgainst(of.state, letter, letter.writtenAt ?? letter.cameAt) : [],
    };
  });
}

const list = operation({
  method: 'GET',
  path: '/letters',
  summary: 'Mails that came: what units wrote, with what they say otherwise than the record',
  query: { unit: 'The id of a unit: its mails only.' },
  needs: 'reader',
  scope: 'read',
  run: async ({ app, query }) => {
    const asked = query.get('unit');
    if (asked === null) return { letters: await readLetters(app) };
    const unit = await findUnit(app, asked);
    return isRefusal(unit) ? unit : { letters: await readLetters(app, unit.id) };
  },
});

const bring = operationTaking<NewLetterText>(newLetterSchema)({
  method: 'POST',
  path: '/letters',
  summary: 'Bring in a mail of a unit, or a mailbox file; records nothing',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  // As JSON a character may be two, and in UTF-8 three.
  mostBytes: 2 * MOST_LETTER_CHARACTERS,
  run: async ({ app, body }) => {
    const bytes = Buffer.from(body.text.replace(/^\s+/, ''), 'utf8');
    const mails = [...mailsIn(bytes.toString('latin1'))];
    if (mails.length <= 1 && !isMail(mails[0] ?? ''))
      return refusal(
        'no-mail',
        'This is no mail: it begins with its head (From:, Subject:, Date:), as "show source" of a mail program gives it.',
        '/text',
      );
    if (mails.length > MOST_AT_ONCE)
      return refusal(
        'too-many-mails',
        `At most ${String(MOST_AT_ONCE)} mails at once: this holds ${String(mails.length)}.`,
        '/text',
      );
    const became: Taken[] = [];
    for (const mail of mails) became.push(await takeLetter(app, Buffer.from(mail, 'latin1')));
    const taken = became.flatMap(({ id }) => id ?? []);
    return {
      taken,
      there: became.length - taken.length,
      /** Kept as they came. */
      unread: became.filter(({ id, isRead }) => id !== null && !isRead).length,
    };
  },
});

const noLetter = refusal('not-found', 'There is no such mail.');

/** Changes a mail, and what needs hands at the unit it is about, before and after. */
async function changed(
  app: App,
  id: string,
  change: (tx: Transaction, letter: StoredLetter) => Promise<Refusal | undefined>,
  more: readonly string[] = [],
): Promise<{ readonly id: string } | Refusal> {
  const before = isUuid(id) ? await letterById(app.db, id) : undefined;
  if (!before) return noLetter;
  const about = [...new Set([...(before.unit === null ? [] : [before.unit]), ...more])];
  return inTransaction(app.db, async (tx) => {
    await hold(
      tx,
      about.map((unit) => unitLedger(unit)),
    );
    const letter = await letterById(tx, id);
    if (!letter || letter.unit !== before.unit)
      return refusal('version-conflict', 'Somebody changed this mail in the same moment: look again.');
    const no = await change(tx, letter);
    if (no) return no;
    for (const unit of about) {
      const of = await unitById(tx, unit);
      if (of) await projectReckoned(tx, of);
    }
    return { id };
  });
}

const settled = operation({
  method: 'POST',
  path: '/letters/{id}/settled',
  summary: 'Somebody has read a mail, and settled what it says',
  needs: 'keeper',
  scope: 'write',
  run: ({ app, viewer, params: { id = '' } }) =>
    changed(app, id, async (tx) =>
      (await settleLetter(tx, id, viewer.name)) ? undefined : refusal('settled', 'This mail is settled already.'),
    ),
});

const about = operationTaking<FromSchema<typeof letterAboutSchema>>(letterAboutSchema)({
  method: 'PUT',
  path: '/letters/{id}',
  summary: 'Say which unit a mail is about',
  needs: 'keeper',
  scope: 'write',
  run: async ({ app, params: { id = '' }, body }) => {
    const unit = body.unit === null ? undefined : await findUnit(app, body.unit);
    if (unit && isRefusal(unit)) return refusal('not-found', 'There is no such unit.', '/unit');
    return changed(
      app,
      id,
      async (tx, letter) => {
        if (letter.isOurs) return refusal('is-ours', 'The shelf wrote this itself.');
        await letterIsAbout(tx, id, unit?.id ?? null);
        return undefined;
      },
      unit ? [unit.id] : [],
    );
  },
});

export const letterOperations = [list, bring, settled, about];
