import fc from 'fast-check';
import { unitsPlayed } from '../../standin/units';
import { gatheredOf } from '../../standin/redfish/gatheredOf';
import type { Body } from '../../standin/redfish/resources';
import type { Truth } from '../../standin/truth';
import { compareObservation } from './compareObservation';
import { readRedfish, type Gathered } from './readRedfish';

const NOW = Date.parse('2026-11-29T12:00:00Z');
const TRUTHS = unitsPlayed(7, 1, NOW, process.cwd());

it('reads every kind of unit as it is, so that nothing differs', () => {
  for (const truth of TRUTHS) {
    const { observation, impossible, measured } = readRedfish(truth.unit, gatheredOf(truth));
    expect([truth.unit.name, impossible]).toEqual([truth.unit.name, []]);
    expect([truth.unit.name, compareObservation(truth.unit, observation)]).toEqual([truth.unit.name, []]);
    expect(observation.bays).toHaveLength(truth.unit.enclosures.flatMap(({ bays }) => bays).length);
    expect(measured.filter(({ metric }) => metric === 'used-bytes')).toHaveLength(Object.keys(truth.unit.pools).length);
  }
});

it('finds a bay by the enclosure and the number where a unit has no label for it', () => {
  const [, , plover] = TRUTHS as [Truth, Truth, Truth];
  const said = gatheredOf(plover);
  const bare = said.drives.map((body) => {
    const { PhysicalLocation: location, ...rest } = body as { PhysicalLocation: { PartLocation: object } };
    return { ...rest, PhysicalLocation: { PartLocation: { ...location.PartLocation, ServiceLabel: undefined } } };
  });
  const { observation, impossible } = readRedfish(plover.unit, { ...said, drives: bare });
  expect([impossible, compareObservation(plover.unit, observation)]).toEqual([[], []]);
});

it('reads how much of its rated life a drive of flash has left, in whole percents', () => {
  const [heron] = TRUTHS as [Truth];
  const [serial] = Object.keys(heron.unit.drives) as [string];
  const drive = { ...(heron.unit.drives[serial] as Truth['unit']['drives'][string]), media: 'ssd' as const };
  const flash = { ...heron, unit: { ...heron.unit, drives: { ...heron.unit.drives, [serial]: drive } } };
  const said = gatheredOf(flash);
  const lives = (more: object): unknown[] =>
    readRedfish(flash.unit, { ...said, drives: said.drives.map((body) => ({ ...(body as Body), ...more })) })
      .measured.filter(({ metric }) => metric === 'life-left')
      .map(({ value }) => value);
  expect(lives({})).toEqual([Math.max(0, Math.floor(100 - (heron.drives[serial]?.hours ?? 0) / 876))]);
  expect(lives({ PredictedMediaLifeLeftPercent: 62.7 })[0]).toBe(62);
  expect(lives({ PredictedMediaLifeLeftPercent: 255 })).toEqual([]);
});

it('names what cannot be, and believes nothing of it', () => {
  const [heron] = TRUTHS as [Truth];
  const said = gatheredOf(heron);
  const [first, ...others] = said.drives as Body[];
  const told = (drive: object, more: Partial<Gathered> = {}) => {
    const read = readRedfish(heron.unit, { ...said, ...more, drives: [{ ...first, ...drive }, ...others] });
    return [read.impossible, compareObservation(heron.unit, read.observation).flatMap(({ events }) => events)] as const;
  };
  for (const drive of [
    { SerialNumber: '' },
    { SerialNumber: '<b>x</b>' },
    { SerialNumber: 'x'.repeat(80) },
    { SerialNumber: 7 },
    { CapacityBytes: -1 },
    { CapacityBytes: 1e30 },
    { CapacityBytes: 'much' },
    { Status: 'OK' },
    { PhysicalLocation: { PartLocation: { ServiceLabel: 'bay 77' } } },
    { PhysicalLocation: { PartLocation: { ServiceLabel: 'bay 2' } } },
    { SerialNumber: 'QH8-04422-4KH9' },
  ]) {
    const [impossible, events] = told(drive);
    const moved = events.filter(({ kind }) => kind !== 'drives-counted');
    expect([drive, impossible.length > 0, moved]).toEqual([drive, true, []]);
  }
  const full = {
    volumes: (said.volumes as Body[]).map((body) => ({ ...body, Capacity: { Data: { ConsumedBytes: 9e15 } } })),
  };
  expect(told({}, full)[0]).toEqual([expect.stringContaining('more is used')]);
  // What no table keeps is left out, and the rest is read.
  const marked = readRedfish(heron.unit, { ...said, drives: [{ ...first, Model: 'Q\u00008\ud800C' }, ...others] });
  expect(marked.observation.bays[0]?.model).toBe('Q8C');
});

it('is total: whatever comes, it reads or names', () => {
  const [heron] = TRUTHS as [Truth];
  fc.assert(
    fc.property(
      fc.array(fc.jsonValue(), { maxLength: 6 }),
      fc.array(fc.jsonValue(), { maxLength: 4 }),
      (some, more) => {
        const read = readRedfish(heron.unit, {
          drives: some,
          metrics: {},
          volumes: more,
          chassis: more,
          supplies: some,
          fans: more,
        });
        expect(compareObservation(heron.unit, read.observation)).toBeInstanceOf(Array);
      },
    ),
    { numRuns: 300 },
  );
});
