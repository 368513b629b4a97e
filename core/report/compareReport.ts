import { bayName } from '../unit/bayName';
import { isSameSerial } from '../drive/serial';
import { formatBytes } from '../quantity/formatBytes';
import type { StatedUnitEvent } from '../../schemas/unitEvent';
import { baysOf, driveInBay, drivesExpected, type UnitState } from '../unit/state';
import { sizedDrive } from '../drive/sizeOnPage';
import type { Report, ReportedBay } from './readReport';

/** Where the unit's page and the record say different things. */
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
    | 'not-reported'
    | 'count'
    | 'unknown-word';
  readonly sentence: string;
  /** What accepting the page's word would record, in order. Empty: it is for a person to look. */
  readonly events: readonly StatedUnitEvent[];
}

/** A page rounds: sizes within this share of one another are the same (common practice). */
const SIZE_SLACK = 0.1;

/**
 * Holds what a unit's page reports against the record. Every contradiction says both sides and what accepting it would
 * record; nothing is recorded by comparing.
 */
export function compareReport(unit: UnitState, report: Report): Contradiction[] {
  const found: Contradiction[] = [];
  for (const reported of report.bays) found.push(...compareBay(unit, reported));
  if (report.percent !== undefined) found.push(...progress(unit, '', report.percent, Object.values(unit.jobs)));
  const named = new Set(report.bays.map(({ bay }) => bay));
  if (report.bays.length > 1) {
    for (const bay of baysOf(unit)) {
      const drive = driveInBay(unit, bay);
      if (named.has(bay) || !drive) continue;
      found.push(
        contradiction(
          'not-reported',
          bay,
          `The page does not mention ${bayName(unit, bay)}; the record has ${drive.serial} there. It may have dropped out.`,
          [],
        ),
      );
    }
    // Box by box: a drive too many in one hides none that is missing in another.
    const isOne = unit.enclosures.length === 1;
    for (const { name, bays } of unit.enclosures) {
      const inBox = report.bays.filter(({ bay }) => bays.includes(bay));
      const present = inBox.filter(({ state }) => state !== 'empty').length;
      const expected = drivesExpected(unit, name);
      const isTold = report.counts.some(({ enclosure }) => enclosure === undefined || enclosure === name);
      if (
        isTold ||
        present >= expected ||
        !found.some(({ code, bay }) => code === 'not-reported' && bays.includes(bay))
      )
        continue;
      found.push(counted(present, expected, isOne ? undefined : name));
    }
  }
  for (const { seen, enclosure } of report.counts) {
    const expected = drivesExpected(unit, enclosure);
    if (seen !== expected) found.push(counted(seen, expected, enclosure));
  }
  return found;
}

function counted(seen: number, expected: number, enclosure: string | undefined): Contradiction {
  return contradiction(
    'count',
    '',
    `The page shows ${String(seen)} drives${enclosure === undefined ? '' : ` in ${enclosure}`}, ${String(expected)} are expected.`,
    [{ kind: 'drives-counted', seen, expected, ...(enclosure === undefined ? {} : { enclosure }) }],
  );
}

function compareBay(unit: UnitState, { bay, serial, size, state, percent, unknown }: ReportedBay): Contradiction[] {
  const drive = driveInBay(unit, bay);
  if (!drive) {
    if (state === 'empty' || serial === undefined) return [];
    const events: StatedUnitEvent[] =
      size === undefined ? [] : [{ kind: 'drive-inserted', bay, drive: sizedDrive(serial, size) }];
    return [
      contradiction(
        'not-in-record',
        bay,
        `The page has ${serial} in ${bayName(unit, bay)}; the record has the bay empty.`,
        events,
      ),
    ];
  }
  if (state === 'empty')
    return [
      contradiction('gone', bay, `The page has ${bayName(unit, bay)} empty; the record has ${drive.serial} there.`, [
        { kind: 'drive-removed', serial: drive.serial },
      ]),
    ];
  if (serial !== undefined && !isSameSerial(serial, drive.serial)) {
    const events: StatedUnitEvent[] =
      size === undefined
        ? []
        : [
            { kind: 'drive-removed', serial: drive.serial },
            { kind: 'drive-inserted', bay, drive: sizedDrive(serial, size) },
          ];
    return [
      contradiction(
        'other-serial',
        bay,
        `The page has ${serial} in ${bayName(unit, bay)}; the record has ${drive.serial}. Read the serial off the drive before believing either.`,
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
        `The page gives ${bayName(unit, bay)} ${formatBytes(size.bytes)}; the record has ${formatBytes(drive.bytes)}.`,
        [],
      ),
    );
  if (unknown !== undefined && drive.condition === 'well')
    found.push(
      contradiction(
        'unknown-word',
        bay,
        `The page says “${unknown}” of ${bayName(unit, bay)}; what that means is not known here. Look it up in its manual.`,
        [{ kind: 'drive-suspected', serial: drive.serial, note: `its page says “${unknown}”` }],
      ),
    );
  const isOut = drive.condition === 'failed' || drive.condition === 'out-of-service';
  if (state === 'failed' && !isOut)
    found.push(
      contradiction(
        'failed',
        bay,
        `The page has ${bayName(unit, bay)} failed; the record has ${drive.serial} ${drive.condition === 'suspected' ? 'showing signs' : 'well'}.`,
        [{ kind: 'drive-failed', serial: drive.serial, note: "so says the unit's page" }],
      ),
    );
  if (state === 'sick' && drive.condition === 'well')
    found.push(
      contradiction('sick', bay, `The page warns of ${bayName(unit, bay)}; the record has ${drive.serial} well.`, [
        { kind: 'drive-suspected', serial: drive.serial, note: "a warning on the unit's page" },
      ]),
    );
  if (state === 'well' && isOut)
    found.push(
      contradiction(
        'recovered',
        bay,
        `The page has ${bayName(unit, bay)} well; the record has ${drive.serial} ${drive.condition === 'failed' ? 'failed' : 'out of service'}.`,
        [{ kind: 'drive-returned', serial: drive.serial, note: "well again, says the unit's page" }],
      ),
    );
  if (percent !== undefined)
    found.push(
      ...progress(
        unit,
        bay,
        percent,
        Object.values(unit.jobs).filter(({ onto }) => onto === undefined || onto === drive.serial),
      ),
    );
  return found;
}

function progress(
  unit: UnitState,
  bay: string,
  percent: number,
  jobs: readonly UnitState['jobs'][string][],
): Contradiction[] {
  const job = jobs[0];
  if (!job)
    return [
      contradiction(
        'progress',
        bay,
        `The page is at ${String(percent)} % of some work; the record of ${unit.name} has none under way.`,
        [],
      ),
    ];
  if (Math.abs(job.percent - percent) < 0.01) return [];
  const back = percent < job.percent ? ' It has gone back: it may have begun again.' : '';
  return [
    contradiction(
      'progress',
      bay,
      `The page is at ${String(percent)} %; the record last heard ${String(job.percent)} %.${back}`,
      [
        ...(percent < job.percent ? [{ kind: 'job-restarted', job: job.id } as const] : []),
        { kind: 'job-progressed', job: job.id, percent },
      ],
    ),
  ];
}

function contradiction(
  code: Contradiction['code'],
  bay: string,
  sentence: string,
  events: readonly StatedUnitEvent[],
): Contradiction {
  return Object.freeze({ kind: 'contradiction', code, bay, sentence, events });
}
