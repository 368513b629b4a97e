import fc from 'fast-check';
import { randomUUID } from 'node:crypto';
import { testShelf, type Json, type TestShelf } from '../testing/testShelf';

/** What people and programs send: usual, at the bounds, and odd. */
const words = (most: number) =>
  fc.oneof(
    fc.constantFrom(
      'Knot',
      'Dunlin',
      ' Ruff ',
      '=1+1',
      '-',
      'ß-ı-İ',
      '\u00a0x\u00a0',
      'q\u200bh8',
      '\u{1d50a}erial',
      '\ud83e\udd86',
      '"',
      '\\',
      '\t',
      '\n a',
      '__proto__',
    ),
    fc.integer({ min: most - 1, max: most + 1 }).map((length) => 'n'.repeat(length)),
    fc.string({ unit: 'grapheme', minLength: 1, maxLength: 12 }),
  );
const serial = fc.oneof(
  { weight: 6, arbitrary: fc.constantFrom('qh8-1', 'QH8-2', ' qh8-3', 'QH8-4', 'QH8-5', 'QH8-6') },
  { weight: 1, arbitrary: words(64) },
  { weight: 1, arbitrary: fc.constantFrom('ß'.repeat(33), 'ŉ'.repeat(40), '   ', 'x'.repeat(4000)) },
);
const bay = fc.oneof(
  { weight: 5, arbitrary: fc.integer({ min: 1, max: 6 }).map(String) },
  { weight: 1, arbitrary: words(16) },
);
const bytes = fc.constantFrom(4000787030016, 8001563222016, 1, 9_000_000_000_000_000);
const note = words(400);
const drive = fc.record(
  { bytes, basis: fc.constantFrom('exact', 'label'), model: words(64), lot: words(40) },
  { requiredKeys: ['bytes', 'basis'] },
);
const moment = fc.oneof(
  { weight: 12, arbitrary: fc.constant(undefined) },
  {
    weight: 4,
    arbitrary: fc.constantFrom('2026-11-01T08:00:00Z', '2026-11-01T09:00:00+02:00', '2026-10-31T23:59:59.999Z'),
  },
  {
    weight: 1,
    arbitrary: fc.constantFrom(
      '1979-01-01T00:00:00Z',
      '2099-01-01T00:00:00Z',
      '0000-01-01T00:00:00Z',
      '2016-12-31T23:59:60Z',
    ),
  },
);

const unitEvent = fc.oneof(
  fc.record({
    kind: fc.constant('drive-inserted'),
    bay,
    drive: fc.tuple(serial, drive).map(([of, about]) => ({ serial: of, ...about })),
  }),
  fc.record({ kind: fc.constant('drive-removed'), serial }),
  fc.record({ kind: fc.constant('drive-suspected'), serial, note }),
  fc.record({ kind: fc.constant('drive-failed'), serial }),
  fc.record({ kind: fc.constant('drive-cleared'), serial, note }),
  fc.record({ kind: fc.constant('noted'), note }),
  fc.record({ kind: fc.constant('sign-noted'), note, lamp: note, bay }, { requiredKeys: ['kind', 'note'] }),
  fc.record(
    {
      kind: fc.constant('round-walked'),
      signs: fc.array(note, { maxLength: 2 }),
      seen: fc.integer({ min: 0, max: 1001 }),
    },
    { requiredKeys: ['kind', 'signs'] },
  ),
  fc.record(
    {
      kind: fc.constant('unit-described'),
      name: words(60),
      details: fc.record({ notes: words(2000), serial: words(64) }),
    },
    { requiredKeys: ['kind'] },
  ),
  fc.record({ kind: fc.constant('power'), on: fc.boolean() }),
  fc.record({ kind: fc.constant('part-lost'), part: fc.constant('fan'), name: words(60), note }),
  fc.record({
    kind: fc.constant('data-set-described'),
    dataSet: fc.constantFrom('photos', 'a'.repeat(40)),
    name: words(60),
    bytes,
  }),
);
const driveEvent = fc.oneof(
  fc.record({ kind: fc.constant('tested'), result: fc.constantFrom('well', 'sick'), note }),
  fc.record({
    kind: fc.constant('put-in-drawer'),
    drawer: fc.record({ site: words(60), room: words(60), drawer: words(60) }),
  }),
  fc.record({ kind: fc.constant('wiped'), method: fc.constant('purge'), how: words(200), by: words(120) }),
  fc.record({ kind: fc.constant('sent-away'), to: words(120), note }),
  fc.record({ kind: fc.constant('noted'), note }),
);

type Deed = readonly [
  weight: number,
  arbitrary: fc.Arbitrary<{
    readonly deed: string;
    readonly given: Json;
    readonly pick: number;
    readonly at: string | undefined;
  }>,
];
const deed = (weight: number, name: string, given: fc.Arbitrary<Json>): Deed => [
  weight,
  fc.record({ deed: fc.constant(name), given, pick: fc.nat(1000), at: moment }),
];
const deeds = fc.oneof(
  ...(
    [
      deed(
        3,
        'POST /units',
        fc.record({
          name: words(60),
          bays: fc.integer({ min: 1, max: 6 }),
          profile: fc.constantFrom('plain', 'reedbank'),
          drives: fc.uniqueArray(fc.record({ bay, serial, drive }), { selector: (one) => one.bay, maxLength: 3 }),
        }),
      ),
      deed(14, 'unit', unitEvent),
      deed(6, 'drive', fc.record({ serial, event: driveEvent })),
      deed(4, 'POST /drives', fc.record({ serial, drive })),
      deed(3, 'back', fc.record({ reason: note })),
      deed(
        2,
        'POST /drive-orders',
        fc.record(
          {
            supplier: words(120),
            count: fc.integer({ min: 0, max: 1001 }),
            drive,
            note,
            expectedOn: fc.constantFrom('2027-01-31', '0000-01-01', '9999-12-31'),
          },
          { requiredKeys: ['supplier', 'count', 'drive'] },
        ),
      ),
      deed(2, 'paper', fc.record({ name: words(120), text: words(200) })),
      deed(
        1,
        'POST /tested-models',
        fc.record(
          { model: words(64), verdict: fc.constantFrom('works', 'avoid'), note },
          { requiredKeys: ['model', 'verdict'] },
        ),
      ),
      deed(
        1,
        'POST /comparisons',
        fc.record({ kind: fc.constant('patient-shelf-comparison'), name: words(80), sheet: note, address: note }),
      ),
      deed(
        1,
        'PUT /prices',
        fc.record({
          prices: fc.array(
            fc.record({ bytes: fc.integer({ min: 0, max: 9e15 }), cents: fc.integer({ min: -1, max: 1e11 }) }),
            { maxLength: 3 },
          ),
          declinePerYear: fc.double({ noNaN: true, min: 0, max: 1 }),
          labourCents: fc.integer({ min: 0, max: 1e6 }),
          deliveryDays: fc.integer({ min: 0, max: 366 }),
        }),
      ),
      deed(
        1,
        'PUT /organisation',
        fc.record(
          {
            name: words(80),
            currency: fc.constantFrom('EUR', 'CHF', 'eur'),
            timeZone: fc.constantFrom('UTC', 'Asia/Kolkata', 'Nowhere'),
          },
          { requiredKeys: ['name', 'currency'] },
        ),
      ),
      deed(
        2,
        'POST /readings',
        fc.record({
          metric: fc.constantFrom('temperature', 'used-bytes'),
          subject: serial,
          value: fc.double({ noNaN: true, min: -1e6, max: 9e15 }),
        }),
      ),
    ] as const
  ).map(([weight, arbitrary]) => ({ weight, arbitrary })),
);

/** Two units to begin with, so that there is something to say things of. */
const BEGUN = ['Teal', 'Wigeon'].map((name, i) => ({
  deed: 'POST /units',
  given: {
    name,
    profile: 'reedbank',
    bays: 6,
    drives: [1, 2].map((n) => ({
      bay: String(n),
      serial: `QH8-${String(2 * i + n)}`,
      drive: { bytes: 4000787030016, basis: 'exact' },
    })),
  },
  pick: 0,
  at: '2026-10-30T08:00:00Z',
}));

let owner: string;
const acts: string[] = [];
/** Does it, or is refused; what matters is that nothing is at fault here. */
async function doIt(
  shelf: TestShelf,
  { deed: name, given, pick, at }: { deed: string; given: Json; pick: number; at: string | undefined },
): Promise<number> {
  const ask = (method: string, path: string, body?: unknown) => shelf.ask(method, path, owner, body);
  const happened = at === undefined ? {} : { happenedAt: at };
  const units = ((await ask('GET', '/units')).body['units'] ?? []) as Json[];
  const unit = units[pick % Math.max(units.length, 1)] ?? { id: randomUUID(), version: 1 };
  const act = randomUUID();
  acts.push(act);
  const send = async (): Promise<{ status: number; body: Json }> => {
    switch (name) {
      case 'POST /units': {
        const { drives, ...about } = given;
        const fitted = (drives as Json[]).map((one) => ({
          bay: one['bay'],
          serial: one['serial'],
          ...(one['drive'] as object),
        }));
        return ask('POST', '/units', {
          ...about,
          place: { site: 'S', room: about['name'] },
          drives: fitted,
          act,
          ...happened,
        });
      }
      case 'unit':
        return ask('POST', `/units/${String(unit['id'])}/events`, {
          expectedVersion: unit['version'],
          event: given,
          act,
          ...happened,
        });
      case 'drive':
        return ask('POST', '/acts', {
          id: act,
          entries: [{ drive: given['serial'], event: given['event'] }],
          ...happened,
        });
      case 'POST /drives':
        return ask('POST', '/drives', { drives: [given], act, ...happened });
      case 'back':
        return ask('POST', `/acts/${acts.slice(0, -1).at(-1 - (pick % 12)) ?? ''}/back`, { ...given, act });
      case 'paper':
        return ask('POST', `/units/${String(unit['id'])}/papers`, {
          name: given['name'],
          base64: Buffer.from(String(given['text'])).toString('base64'),
        });
      case 'POST /readings':
        return ask('POST', '/readings', { readings: [{ unit: unit['id'], ...given }] });
      case 'PUT /organisation':
        return shelf.ask('PUT', '/organisation', await shelf.cookieOf('owner'), given);
      default:
        return ask(...(name.split(' ') as [string, string]), given);
    }
  };
  return (await send()).status;
}

const taken = async (shelf: TestShelf, as: string): Promise<Json> => {
  const { exportedAt: _now, ...document } = (await shelf.ask('GET', '/export', as)).body;
  return document as Json;
};

describe('whatever the shelf came to by its own doors', () => {
  it('goes out, comes into an empty one, and goes out again the same to the byte', async () => {
    let recorded = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(deeds, { minLength: 60, maxLength: 90 }), async (all) => {
        const here = await testShelf();
        const there = await testShelf();
        try {
          owner = await here.tokenOf('owner');
          acts.length = 0;
          for (const one of [...BEGUN, ...all]) {
            const status = await doIt(here, one);
            expect([one, status < 500]).toEqual([one, true]);
            if (status < 300) recorded++;
          }
          const document = await taken(here, owner);
          const as = await there.tokenOf('owner');
          const brought = await there.ask('POST', '/import', as, { document });
          expect(
            (brought.body['rows'] as Json[] | undefined)?.filter((row) => row['verdict'] === 'refused') ?? brought.body,
          ).toEqual([]);
          expect(brought.body['done']).toBe(true);
          expect(JSON.stringify(await taken(there, as))).toBe(JSON.stringify(document));
        } finally {
          await here.close();
          await there.close();
        }
      }),
      { numRuns: 5, endOnFailure: true },
    );
    // Most of what is tried is refused; enough is not.
    expect(recorded).toBeGreaterThan(100);
  });
});
