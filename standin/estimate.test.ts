import { afterDoings } from './afterDoings';
import { believe } from '../core/observe/believe';
import { compareObservation } from '../core/observe/compareObservation';
import { readRedfish } from '../core/observe/readRedfish';
import { estimateOfJob } from '../core/rebuild/estimateOfJob';
import { apply } from '../core/unit/apply';
import { membersOf, type UnitState } from '../core/unit/state';
import { isRefusal } from '../core/value/refusal';
import { gatheredOf } from './redfish/gatheredOf';
import { lived, type Truth } from './truth';
import { unitsPlayed } from './units';

const NOW = Date.parse('2026-11-29T12:00:00Z');
const MINUTE = 60_000;
const EVERY = 20 * MINUTE;
/** Four times out of five, as the estimate says of itself; from so much of the work on. */
const [HOLDS, FROM_PERCENT] = [0.75, 5];

/** A rebuild under way in each kind of unit that can rebuild. */
function rebuilding(): Truth[] {
  const begun: Truth[] = [];
  for (const truth of unitsPlayed(14, 3, NOW, process.cwd())) {
    const [pool] = Object.values(truth.unit.pools);
    const members = pool ? membersOf(pool).map((serial) => truth.unit.drives[serial]) : [];
    // The one that has failed already, or any.
    const drive =
      members.find((one) => one?.condition === 'failed') ?? members.find((one) => one?.condition === 'well');
    if (!drive || drive.bay === null || Object.keys(truth.unit.jobs).length > 0) continue;
    const { bay, bytes } = drive;
    let hurt = truth;
    try {
      if (drive.condition !== 'failed') hurt = afterDoings(truth, { do: 'fail', bay });
      if (Object.keys(hurt.unit.jobs).length === 0)
        hurt = afterDoings(hurt, { do: 'pull', bay }, { do: 'insert', bay, serial: `${drive.serial}-NEW`, bytes });
      // Some families wait to be told.
      if (Object.keys(hurt.unit.jobs).length === 0) hurt = afterDoings(hurt, { do: 'rebuild', bay });
    } catch {
      continue;
    }
    const isLost = Object.values(hurt.unit.pools).some(({ lost }) => lost.length > 0);
    if (!isLost && Object.values(hurt.unit.jobs).some(({ task }) => task === 'rebuild')) begun.push(hurt);
  }
  return begun;
}

/** What the record comes to when a unit is looked at as the watch does. */
function lookedAt(record: UnitState, truth: Truth, at: string): UnitState {
  const { observation } = readRedfish(record, gatheredOf(truth));
  const { certain } = believe(record, observation, compareObservation(record, observation), []);
  return certain
    .flatMap(({ events }) => events)
    .reduce((state, event) => {
      const next = apply(state, event, at);
      return isRefusal(next) ? state : next;
    }, record);
}

it('says of rebuilds, from whole percents alone, when they will truly be done', () => {
  const all = rebuilding();
  const kinds = new Set(all.map(({ unit }) => unit.profile.id));
  expect(kinds.size).toBeGreaterThan(2);
  let [held, said, width] = [0, 0, 0];
  for (const first of all) {
    const [job] = Object.values(first.unit.jobs).filter(({ task }) => task === 'rebuild');
    const spans: { readonly low: number; readonly high: number }[] = [];
    let [truth, record] = [first, first.unit];
    let now = first.livedTo;
    let finish: number | undefined;
    while (finish === undefined) {
      now += EVERY;
      truth = lived(truth, now);
      record = lookedAt(record, truth, new Date(now).toISOString());
      if (!Object.keys(truth.unit.jobs).includes(job?.id ?? '')) finish = now - EVERY / 2;
      const known = record.jobs[job?.id ?? ''];
      if (!known || known.percent < FROM_PERCENT) continue;
      const estimate = estimateOfJob(record, known, { used: truth.used });
      if (estimate) spans.push({ low: Date.parse(estimate.low), high: Date.parse(estimate.high) });
      if (now - first.livedTo > 60 * 24 * 60 * MINUTE) throw new Error(`${first.unit.name} is never done.`);
    }
    // Seen as done on its own word: the record has no job left, and the pool is whole.
    expect([first.unit.name, Object.keys(record.jobs)]).toEqual([first.unit.name, Object.keys(truth.unit.jobs)]);
    expect(spans.length).toBeGreaterThan(5);
    const slack = EVERY;
    held += spans.filter(({ low, high }) => low - slack <= (finish ?? 0) && (finish ?? 0) <= high + slack).length;
    said += spans.length;
    // A span that says anything holds everything: they are narrow, too.
    for (const { low, high } of spans) width += (high - low) / (finish - first.livedTo);
  }
  expect(held / said).toBeGreaterThan(HOLDS);
  expect(width / said).toBeLessThan(0.25);
});
