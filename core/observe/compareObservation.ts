import { bayName } from '../unit/bayName';
import { isSameSerial, serialKey } from '../drive/serial';
import { formatBytes } from '../quantity/formatBytes';
import { NEARLY_NEXT_BAND } from '../rebuild/nearlyDone';
import type { StatedUnitEvent } from '../../schemas/unitEvent';
import { TASK_WORDS } from '../record/eventWords';
import { apply } from '../unit/apply';
import { mayBeBack } from '../unit/applyPoolServed';
import { isDown } from '../unit/margin';
import { eventsOfPoolSaid, type PoolSays } from '../unit/poolSaid';
import { driveInBay, drivesExpected, membersOf, placesOf, poolsOf, type Pool, type UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';
import { entryOf } from '../value/entryOf';
import { isSameName } from '../value/sameName';
import { sizedDrive } from '../drive/sizeOnPage';
import type { Observation, ObservedBay, ObservedPart, ObservedPool } from './observation';

/** Where the unit and the record say different things. */
export interface Contradiction {
  readonly kind: 'contradiction';
  readonly bay: string;
  readonly code:
    | 'other-serial'
    | 'not-in-record'
    | 'gone'
    | 'failed'
    | 'sick'
    | 'recovered'
    | 'size'
    | 'progress'
    | 'went-back'
    | 'work-begun'
    | 'work-done'
    | 'work-quiet'
    | 'pool-stopped'
    | 'pool-back'
    | 'pool-degraded'
    | 'part-lost'
    | 'part-back'
    | 'not-reported'
    | 'count'
    | 'unknown-word'
    | 'test-arrived';
  readonly sentence: string;
  /** What accepting the unit's word would record, in order. Empty: it is for a person to look. */
  readonly events: readonly StatedUnitEvent[];
}

/** Who says it. */
const SPEAKERS = { page: 'The page', unit: 'The unit', mail: 'The mail', round: 'The round' } as const;

/** A page rounds: sizes within this share of one another are the same (common practice). */
const SIZE_SLACK = 0.1;

/**
 * Holds what a unit shows against the record. Every contradiction says both sides and what accepting it would record;
 * nothing is recorded by comparing.
 */
export function compareObservation(unit: UnitState, seen: Observation): Contradiction[] {
  const who = SPEAKERS[seen.by];
  const found: Contradiction[] = (seen.parts ?? []).flatMap((part) => comparePart(unit, part, who));
  // Of a box that does not answer nothing is known, and nothing else is said.
  const away = new Set([
    ...(seen.by === 'unit' ? unit.away : []),
    ...(seen.parts ?? []).filter(({ part, isLost }) => part === 'enclosure' && isLost).map(({ name }) => name),
  ]);
  const hidden = new Set(unit.enclosures.filter(({ name }) => away.has(name)).flatMap(({ bays }) => bays));
  const bays = seen.bays.filter(({ bay }) => !hidden.has(bay));
  for (const reported of bays) found.push(...compareBay(unit, reported, who));
  for (const pool of seen.pools ?? []) found.push(...comparePool(unit, pool, bays, who));
  for (const { pool: id, says } of seen.poolWords ?? []) {
    const pool = entryOf(unit.pools, id);
    if (pool) found.push(...compareServed(unit, pool, says, who));
  }
  if (seen.percent !== undefined) found.push(...progress(unit, '', seen.percent, Object.values(unit.jobs), who));
  const named = new Set(seen.bays.map(({ bay }) => bay));
  // A mail tells of what happened, and leaves out the rest.
  if (bays.length > 1 && seen.by !== 'mail') {
    for (const bay of placesOf(unit)) {
      const drive = driveInBay(unit, bay);
      if (named.has(bay) || !drive || hidden.has(bay)) continue;
      found.push(
        contradiction(
          'not-reported',
          bay,
          `${who} does not mention ${bayName(unit, bay)}; the record has ${drive.serial} there. It may have dropped out.`,
          [],
        ),
      );
    }
    // Box by box: a drive too many in one hides none that is missing in another.
    const isOne = unit.enclosures.length === 1;
    for (const { name, bays: of } of unit.enclosures) {
      const inBox = bays.filter(({ bay }) => of.includes(bay));
      const present = inBox.filter(({ state }) => state !== 'empty').length;
      const expected = drivesExpected(unit, name);
      const isTold = seen.counts.some(({ enclosure }) => enclosure === undefined || enclosure === name);
      if (isTold || present >= expected || !found.some(({ code, bay }) => code === 'not-reported' && of.includes(bay)))
        continue;
      found.push(counted(present, expected, isOne ? undefined : name, who));
    }
  }
  for (const { seen: there, enclosure } of seen.counts) {
    const expected = drivesExpected(unit, enclosure);
    if (there !== expected) found.push(counted(there, expected, enclosure, who));
  }
  return withoutExplained(unit, found);
}

/** That a pool has stopped is not told beside what it stopped by: a box that dropped out, or drives that failed. */
function withoutExplained(unit: UnitState, found: readonly Contradiction[]): Contradiction[] {
  const others = found.filter(({ code }) => code !== 'pool-stopped').flatMap(({ events }) => events);
  const after = others.reduce((now, event) => {
    const next = apply(now, event, unit.registeredAt);
    return isRefusal(next) ? now : next;
  }, unit);
  return found.filter(
    ({ code, events }) =>
      code !== 'pool-stopped' ||
      !events.some((event) => event.kind === 'pool-stopped' && isDown(after.pools[event.pool] as Pool)),
  );
}

const PART_WORDS = { enclosure: 'enclosure', supply: 'power supply', fan: 'fan' } as const;

function comparePart(unit: UnitState, { part, name, isLost }: ObservedPart, who: string): Contradiction[] {
  const isKnown =
    part === 'enclosure'
      ? unit.away.includes(name)
      : unit.parts.some((lost) => lost.part === part && isSameName(lost.name, name));
  if (isKnown === isLost || (part === 'enclosure' && !unit.enclosures.some((box) => box.name === name))) return [];
  const what = part === 'enclosure' ? name : `${PART_WORDS[part]} “${name}”`;
  const event: StatedUnitEvent =
    part === 'enclosure'
      ? { kind: isLost ? 'enclosure-lost' : 'enclosure-back', enclosure: name }
      : isLost
        ? { kind: 'part-lost', part, name }
        : { kind: 'part-back', part, name };
  return [
    contradiction(
      isLost ? 'part-lost' : 'part-back',
      '',
      isLost
        ? `${who} has lost ${what}; the record has it working.`
        : `${who} has ${what} back; the record has it lost.`,
      [event],
    ),
  ];
}

/** Work in a pool that no bay tells of, and work that the unit has done and the record has not. */
function comparePool(unit: UnitState, seen: ObservedPool, bays: readonly ObservedBay[], who: string): Contradiction[] {
  const pool = poolsOf(unit).find((one) =>
    membersOf(one).some((member) => seen.serials.some((serial) => isSameSerial(serial, member))),
  );
  if (!pool) return [];
  if (seen.isStopped === true) return compareServed(unit, pool, 'stopped', who);
  // Back with every member it would take back among its own: of less nobody is sure.
  if (isDown(pool))
    return seen.isWell && mayBeBack(unit, pool).every((one) => seen.serials.some((serial) => isSameSerial(serial, one)))
      ? compareServed(unit, pool, 'healthy', who)
      : [];
  const jobs = Object.values(unit.jobs).filter((job) => job.pool === pool.id);
  const ownBay = bays.some(({ percent, serial }) => {
    const drive = serial === undefined ? undefined : entryOf(unit.drives, serialKey(serial));
    return percent !== undefined && (drive === undefined || jobs.some(({ onto }) => onto === drive.serial));
  });
  if (seen.percent !== undefined) return ownBay || jobs.length === 0 ? [] : progress(unit, '', seen.percent, jobs, who);
  const [job] = jobs;
  const onto = job?.onto === undefined ? undefined : entryOf(unit.drives, job.onto);
  const shown = bays.find(({ bay }) => bay === onto?.bay);
  // Done only where the unit has all of it well, the drive written among them; a page that says nothing is no word.
  const isDone =
    job !== undefined &&
    jobs.length === 1 &&
    seen.isWell &&
    (onto === undefined
      ? job.replaces === undefined
      : shown?.state === 'well' && seen.serials.some((serial) => isSameSerial(serial, onto.serial)));
  if (!isDone) return [];
  return [
    contradiction(
      // Of a rebuild the drive among the members is proof. Other work may go on where a unit does not tell of it.
      onto ? 'work-done' : 'work-quiet',
      onto?.bay ?? '',
      `${who} has ${pool.name} well, with no work going on; the record has ${TASK_WORDS[job.task]} at ${String(job.percent)} %.`,
      [{ kind: 'job-finished', job: job.id }],
    ),
  ];
}

const SAYS_WORDS = {
  healthy: 'well',
  degraded: 'degraded',
  damaged: 'served, with files damaged',
  stopped: 'stopped',
  'asks-to-erase': 'waiting for an answer',
} as const;

/** Whether a pool is served: what the unit says against what the record has. */
function compareServed(unit: UnitState, pool: Pool, says: PoolSays, who: string): Contradiction[] {
  const isNews =
    says === 'stopped'
      ? !isDown(pool)
      : isDown(pool) || says === 'damaged' || (says === 'degraded' && pool.missing.length === 0);
  if (!isNews) return [];
  const events = eventsOfPoolSaid(unit, pool, says) as readonly StatedUnitEvent[];
  const cannot = events.map((event) => apply(unit, event, unit.registeredAt)).find(isRefusal);
  const record = isDown(pool)
    ? 'stopped'
    : pool.missing.length > 0
      ? `without ${pool.missing.join(', ')}`
      : 'with every member well';
  return [
    contradiction(
      says === 'stopped' ? 'pool-stopped' : isDown(pool) ? 'pool-back' : 'pool-degraded',
      '',
      `${who} has ${pool.name} ${SAYS_WORDS[says]}; the record has it ${record}.${cannot ? ` ${cannot.sentence}` : ''}`,
      cannot ? [] : events,
    ),
  ];
}

function counted(seen: number, expected: number, enclosure: string | undefined, who: string): Contradiction {
  return contradiction(
    'count',
    '',
    `${who} shows ${String(seen)} drives${enclosure === undefined ? '' : ` in ${enclosure}`}, ${String(expected)} are expected.`,
    [{ kind: 'drives-counted', seen, expected, ...(enclosure === undefined ? {} : { enclosure }) }],
  );
}

function compareBay(unit: UnitState, reported: ObservedBay, who: string): Contradiction[] {
  const { bay, serial, size, state, percent, unknown, model } = reported;
  const its = who === 'The page' ? "the unit's page" : who === 'The mail' ? "the unit's mail" : 'the unit';
  const drive = driveInBay(unit, bay);
  if (!drive) {
    if (state === 'empty' || serial === undefined) return [];
    const events: StatedUnitEvent[] =
      size === undefined ? [] : [{ kind: 'drive-inserted', bay, drive: described(serial, size, model) }];
    return [
      contradiction(
        'not-in-record',
        bay,
        `${who} has ${serial} in ${bayName(unit, bay)}; the record has the bay empty.`,
        events,
      ),
    ];
  }
  if (state === 'empty')
    return [
      contradiction('gone', bay, `${who} has ${bayName(unit, bay)} empty; the record has ${drive.serial} there.`, [
        { kind: 'drive-removed', serial: drive.serial },
      ]),
    ];
  if (serial !== undefined && !isSameSerial(serial, drive.serial)) {
    const events: StatedUnitEvent[] =
      size === undefined
        ? []
        : [
            { kind: 'drive-removed', serial: drive.serial },
            { kind: 'drive-inserted', bay, drive: described(serial, size, model) },
          ];
    return [
      contradiction(
        'other-serial',
        bay,
        `${who} has ${serial} in ${bayName(unit, bay)}; the record has ${drive.serial}. Read the serial off the drive before believing either.`,
        events,
      ),
    ];
  }
  const found: Contradiction[] = [];
  if (size !== undefined && Math.abs(size.bytes - drive.bytes) > SIZE_SLACK * drive.bytes)
    found.push(
      contradiction(
        'size',
        bay,
        `${who} gives ${bayName(unit, bay)} ${formatBytes(size.bytes)}; the record has ${formatBytes(drive.bytes)}.`,
        [],
      ),
    );
  if (unknown !== undefined && drive.condition === 'well')
    found.push(
      contradiction(
        'unknown-word',
        bay,
        `${who} says “${unknown}” of ${bayName(unit, bay)}; what that means is not known here. Look it up in its manual.`,
        [{ kind: 'drive-suspected', serial: drive.serial, note: `${its} says “${unknown}”` }],
      ),
    );
  const isOut = drive.condition === 'failed' || drive.condition === 'out-of-service';
  if (state === 'failed' && !isOut)
    found.push(
      contradiction(
        'failed',
        bay,
        `${who} has ${bayName(unit, bay)} failed; the record has ${drive.serial} ${drive.condition === 'suspected' ? 'showing signs' : 'well'}.`,
        [{ kind: 'drive-failed', serial: drive.serial, note: `so says ${its}` }],
      ),
    );
  if (state === 'sick' && drive.condition === 'well')
    found.push(
      contradiction('sick', bay, `${who} warns of ${bayName(unit, bay)}; the record has ${drive.serial} well.`, [
        {
          kind: 'drive-suspected',
          serial: drive.serial,
          note:
            who === 'The unit' ? 'the unit expects it to fail' : `a warning ${who === 'The mail' ? 'in' : 'on'} ${its}`,
        },
      ]),
    );
  if (state === 'well' && isOut)
    found.push(
      contradiction(
        'recovered',
        bay,
        `${who} has ${bayName(unit, bay)} well; the record has ${drive.serial} ${drive.condition === 'failed' ? 'failed' : 'out of service'}.`,
        [{ kind: 'drive-returned', serial: drive.serial, note: `well again, says ${its}` }],
      ),
    );
  if (percent !== undefined)
    found.push(...progress(unit, bay, percent, jobsAt(unit, drive.serial, who), who, drive.serial));
  return found;
}

function progress(
  unit: UnitState,
  bay: string,
  percent: number,
  jobs: readonly UnitState['jobs'][string][],
  who: string,
  onto?: string,
): Contradiction[] {
  const job = jobs[0];
  const begun = job || onto === undefined ? undefined : rebuildBegun(unit, onto, percent);
  if (begun)
    return [
      contradiction(
        'work-begun',
        bay,
        `${who} is rebuilding onto ${onto ?? ''} in ${bayName(unit, bay)}; the record has no rebuild under way.`,
        begun,
      ),
    ];
  if (!job)
    return [
      contradiction(
        'progress',
        bay,
        `${who} is at ${String(percent)} % of some work; the record of ${unit.name} has none under way.`,
        [],
      ),
    ];
  // A family that counts each band from 0 to 100 falls back where one ends and the next begins.
  const isNextBand = unit.profile.rebuild.counts === 'each-band' && job.percent >= NEARLY_NEXT_BAND;
  const isBack = percent < job.percent && !isNextBand;
  // A unit tells whole percents: what a person read off its page a moment ago may be a little further.
  const slack = who === 'The unit' ? 1 : 0.01;
  if (isBack ? job.percent - percent <= slack : Math.abs(percent - job.percent) < 0.01) return [];
  const back = isBack ? ' It has gone back: it may have begun again.' : '';
  return [
    contradiction(
      isBack ? 'went-back' : 'progress',
      bay,
      `${who} is at ${String(percent)} %; the record last heard ${String(job.percent)} %.${back}`,
      [
        ...(isBack ? [{ kind: 'job-restarted', job: job.id } as const] : []),
        { kind: 'job-progressed', job: job.id, percent },
      ],
    ),
  ];
}

/** Work a bay's percent can be about: that onto its drive; on a page, which may name any bay beside it, also that of the whole. */
function jobsAt(unit: UnitState, serial: string, who: string): UnitState['jobs'][string][] {
  const jobs = Object.values(unit.jobs);
  const own = jobs.filter(({ onto }) => onto === serial);
  return own.length > 0 || who === 'The unit' ? own : jobs.filter(({ onto }) => onto === undefined);
}

/** The rebuild a unit has begun by itself, where it can be only one. */
function rebuildBegun(unit: UnitState, onto: string, percent: number): StatedUnitEvent[] | undefined {
  const thin = poolsOf(unit).filter(({ missing }) => missing.length > 0);
  const [pool] = thin;
  const [replaces] = pool?.missing ?? [];
  if (!pool || thin.length > 1 || pool.missing.length > 1 || replaces === undefined) return undefined;
  const job = `seen-${serialKey(onto)
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')}`.slice(0, 40);
  const begun: StatedUnitEvent = pool.spares.includes(onto)
    ? { kind: 'spare-took-over', pool: pool.id, spare: onto, replaces, job }
    : { kind: 'job-started', task: 'rebuild', pool: pool.id, replaces, onto, job };
  return [begun, ...(percent > 0 ? [{ kind: 'job-progressed', job, percent } as const] : [])];
}

function described(serial: string, size: NonNullable<ObservedBay['size']>, model: string | undefined) {
  return { ...sizedDrive(serial, size), ...(model === undefined ? {} : { model }) };
}

function contradiction(
  code: Contradiction['code'],
  bay: string,
  sentence: string,
  events: readonly StatedUnitEvent[],
): Contradiction {
  return Object.freeze({ kind: 'contradiction', code, bay, sentence, events });
}
