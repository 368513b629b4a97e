import { expm, matrix } from 'mathjs';
import { testShelf, type Json, type TestShelf } from '../testing/testShelf';

/** What POST /appraisals answers, against references that share no code with it: from the request to the answer. */

let shelf: TestShelf;
let reader: string;
beforeAll(async () => {
  shelf = await testShelf();
  reader = await shelf.tokenOf('reader');
});
afterAll(() => shelf.close());

interface Answered {
  readonly layout: { readonly scheme: string; readonly usableBytes: number; readonly legal: boolean };
  readonly risk: { readonly chanceOfLoss: number; readonly meanTimeToLoss: number } | null;
  readonly rebuild: { readonly likely: number } | null;
  readonly centsPerUsableTB: number | null;
}
const appraised = async (body: object): Promise<readonly Answered[]> => {
  const { status, body: answer } = await shelf.ask('POST', '/appraisals', reader, body);
  expect([status, (answer as Json)['detail']]).toEqual([200, undefined]);
  return answer['appraisals'] as unknown as Answered[];
};
const alike = (count: number, bytes: number, more: object = {}) =>
  Array.from({ length: count }, (_, i) => ({ bay: String(i + 1), bytes, ...more }));

/**
 * The chance that more fail than may, by a general library's matrix exponential: how many are missing, and how many of their
 * drives have not come yet. All drives alike; a drive is ordered at each failure; those that are at hand are written side by
 * side, or one after another, as the family does.
 */
function chanceByLibrary(of: {
  drives: number;
  redundancy: number;
  mttf: number;
  order: number;
  rebuild: number;
  hours: number;
  isSerial: boolean;
}): number {
  const states: [missing: number, coming: number][] = [];
  for (let missing = 0; missing <= of.redundancy; missing++)
    for (let coming = 0; coming <= missing; coming++) states.push([missing, coming]);
  const size = states.length + 1;
  const at = (missing: number, coming: number): number =>
    missing > of.redundancy ? size - 1 : states.findIndex(([m, c]) => m === missing && c === coming);
  const rates = Array.from({ length: size }, () => Array.from({ length: size }, () => 0));
  const to = (from: number, into: number, rate: number): void => {
    const row = rates[from] as number[];
    row[into] = (row[into] as number) + rate;
    row[from] = (row[from] as number) - rate;
  };
  states.forEach(([missing, coming], from) => {
    to(from, at(missing + 1, coming + 1), (of.drives - missing) / of.mttf);
    if (coming > 0) to(from, at(missing, coming - 1), coming / of.order);
    const written = of.isSerial ? Math.min(1, missing - coming) : missing - coming;
    if (written > 0) to(from, at(missing - 1, coming), written / of.rebuild);
  });
  return Number(expm(matrix(rates.map((row) => row.map((rate) => rate * of.hours)))).get([0, size - 1]));
}

it.each([
  ['plain', 'mirror', 2, 1, 4e12],
  ['plain', 'parity-1', 4, 1, 8e12],
  ['plain', 'parity-2', 6, 2, 12e12],
  ['tidemill', 'dedicated-2', 8, 2, 12e12],
  ['plain', 'parity-2', 8, 2, 36_000_321_568_768],
] as const)(
  'risks what a matrix exponential of a general library says, over HTTP: %s, %s of %d',
  async (profile, scheme, count, redundancy, bytes) => {
    // Poor drives, waited for long: far from the edge where any two models agree.
    const [years, mttfHours, hoursToReplace] = [5, 60_000, 400];
    const [answer] = await appraised({
      profile,
      drives: alike(count, bytes),
      schemes: [scheme],
      assumptions: { years, mttfHours, hoursToReplace },
    });
    expect(answer?.layout).toMatchObject({ scheme, legal: true });
    const reference = chanceByLibrary({
      drives: count,
      redundancy,
      mttf: mttfHours,
      order: hoursToReplace,
      rebuild: (answer?.rebuild?.likely ?? NaN) / 3600,
      // A reliability year (common practice).
      hours: years * 8760,
      isSerial: profile === 'plain',
    });
    expect(reference).toBeGreaterThan(1e-4);
    expect((answer?.risk?.chanceOfLoss ?? NaN) / reference).toBeCloseTo(1, 6);
  },
);

it('costs a usable TB what all drives cost, spares too, by what is usable: in whole numbers, for drives that are not alike', async () => {
  const drives = [4, 4, 6, 6, 8, 8].map((terabytes, i) => ({
    bay: String(i + 1),
    bytes: terabytes * 1_000_000_000_000,
    priceCents: 8_999 + 1_731 * i,
  }));
  const cents = drives.reduce((sum, { priceCents }) => sum + BigInt(priceCents), 0n);
  const answers = await appraised({ profile: 'plain', drives, schemes: ['mirror', 'parity-1', 'parity-2'], spares: 1 });
  const legal = answers.filter(({ layout }) => layout.legal);
  expect(legal.length).toBeGreaterThan(1);
  for (const { layout, centsPerUsableTB } of legal) {
    // Hundredths of a hundredth, by whole numbers alone.
    const whole = (cents * 1_000_000_000_000n * 10_000n) / BigInt(layout.usableBytes);
    expect((centsPerUsableTB ?? NaN) * 10_000).toBeCloseTo(Number(whole), -1);
  }
  const unpriced = await appraised({
    profile: 'plain',
    drives: drives.map(({ priceCents, ...one }, i) => (i === 0 ? one : { ...one, priceCents })),
    schemes: ['parity-1'],
  });
  expect(unpriced.map(({ centsPerUsableTB }) => centsPerUsableTB)).toEqual([null]);
});
