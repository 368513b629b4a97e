import { MARROWFEN } from './scenario';

const drives = MARROWFEN.units.flatMap(({ drives }) => drives);
const laterSerials = MARROWFEN.units.flatMap(({ replacing }) => (replacing ? [replacing.by.serial] : []));

it('gives every drive a serial of its own, without characters that look alike', () => {
  const serials = [...drives.map(({ serial }) => serial), ...laterSerials];
  expect(new Set(serials).size).toBe(serials.length);
  for (const serial of serials) expect(serial).toMatch(/^QH\d{1,2}-\d{5}-[ACDEFHJKMNPRTUVWXY0-9]{4}$/);
});

it('tells its history in order, and in the past', () => {
  for (const { daysAgo, later } of MARROWFEN.units) {
    const times = [daysAgo, ...later.map((event) => event.daysAgo)];
    expect(times).toEqual([...times].sort((a, b) => b - a));
    expect(times.at(-1)).toBeGreaterThan(0);
  }
});
