import { CHECKS, type Check } from '../../schemas/unitEvent';
import { planLayout } from '../layout/planLayout';
import { driveInBay, type UnitState } from '../unit/state';
import type { UnitEvent } from '../unit/event';
import { poolCreated } from '../unit/poolCreated';
import { isRefusal, refusal, type Refusal } from '../value/refusal';
import type { Intention, PlanStep, StepEvidence } from './plan';

/**
 * What a step changes, as events: its intentions against the state of this moment, with the evidence in hand. The
 * planner asks with the evidence it expects, the runner with what the person gave; there is no other way from a step to
 * the ledger.
 */
export function eventsOfStep(unit: UnitState, step: PlanStep, evidence: StepEvidence): UnitEvent[] | Refusal {
  const wrong = whyNotEvidence(unit, step, evidence);
  if (wrong) return wrong;
  const events: UnitEvent[] = [];
  for (const intention of step.does) {
    const made = eventsOf(unit, intention, evidence);
    if (isRefusal(made)) return made;
    events.push(...made);
  }
  return events;
}

function whyNotEvidence(unit: UnitState, { asks }: PlanStep, evidence: StepEvidence): Refusal | undefined {
  if (asks.kind !== evidence.kind) return refusal('evidence-kind', `This step asks for ${EVIDENCE_WORDS[asks.kind]}.`, '/evidence/kind');
  if (asks.kind === 'number' && evidence.kind === 'number') {
    const { least = -Infinity, most = Infinity, unit: of } = asks;
    if (evidence.number < least || evidence.number > most)
      return refusal('out-of-range', `${String(evidence.number)} ${of} cannot be: it lies between ${String(least)} and ${String(most)}.`, '/evidence/number');
  }
  if (asks.kind === 'serial' && evidence.kind === 'serial' && asks.expects !== undefined && !isSame(asks.expects, evidence.serial)) {
    const standing = Object.values(unit.drives).find(({ serial, bay }) => bay !== null && isSame(serial, evidence.serial));
    const whose = standing ? ` It is the drive in bay ${standing.bay ?? ''} of ${unit.name}: leave it there.` : '';
    return refusal('serial-differs', `This is ${evidence.serial}; the step is about ${asks.expects}.${whose}`, '/evidence/serial');
  }
  return undefined;
}

export const EVIDENCE_WORDS = {
  tick: 'a tick',
  serial: 'a serial, read off the drive',
  text: 'a few words',
  number: 'a number',
  speed: 'two speeds',
  picture: 'a picture',
} as const;

/** A scanner and a person differ in case and in spaces; the drive is the same. */
function isSame(a: string, b: string): boolean {
  const plain = (text: string): string => text.replace(/\s/g, '').toUpperCase();
  return plain(a) === plain(b);
}

function eventsOf(unit: UnitState, intention: Intention, evidence: StepEvidence): UnitEvent[] | Refusal {
  switch (intention.kind) {
    case 'fit-drive': {
      const { bay, serial: planned, ...drive } = intention.drive;
      const serial = evidence.kind === 'serial' ? evidence.serial : (planned ?? `bay ${bay}`);
      return [{ kind: 'drive-inserted', bay, drive: { serial, ...drive } }];
    }
    case 'make-pool': {
      const { pool, name, scheme, groupWidth, spares, bays } = intention;
      const drives = bays.flatMap((bay) => driveInBay(unit, bay) ?? []);
      if (drives.length < bays.length) {
        const empty = bays.filter((bay) => !driveInBay(unit, bay));
        return refusal('bay-empty', `Bay ${empty.join(', ')} is still empty. The pool is made of the drives that are in.`, '/step');
      }
      const planned = drives.map(({ bay, bytes, media }) => ({ bay: bay ?? '', bytes, ...(media === undefined ? {} : { media }) }));
      const layout = planLayout(unit.profile, scheme, planned, spares, groupWidth);
      const made = poolCreated(layout, pool, name, new Map(drives.map(({ bay, serial }) => [bay ?? '', serial])));
      return isRefusal(made) ? made : [made];
    }
    case 'switch-power':
      return [{ kind: 'power', on: intention.on }];
    case 'write-down':
      return evidence.kind === 'text' ? [{ kind: 'unit-described', details: { [intention.field]: evidence.text } }] : [];
    case 'update-firmware':
      return evidence.kind === 'text' ? [{ kind: 'firmware-updated', version: evidence.text.slice(0, 40) }] : [];
    case 'confirm':
      return (CHECKS as readonly string[]).includes(intention.check) ? [{ kind: 'check-confirmed', check: intention.check as Check }] : [];
    case 'start-job':
      return [{ kind: 'job-started', job: `${intention.task}-${intention.pool}`, task: intention.task, pool: intention.pool }];
    case 'finish-job':
      return [{ kind: 'job-finished', job: `${intention.task}-${intention.pool}` }];
    case 'make-volume': {
      const { pool, name, thin, fileSystem, checksums } = intention;
      const bytes = unit.profile.volumes.nominalBytes ?? unit.pools[pool]?.shownBytes ?? 0;
      const chosen = { ...(fileSystem === undefined ? {} : { fileSystem }), ...(checksums === undefined ? {} : { checksums }) };
      return bytes > 0 ? [{ kind: 'volume-set', volume: `${pool}-volume-1`, pool, name, bytes, thin, ...chosen }] : [];
    }
    case 'measure-speed':
      return evidence.kind === 'speed'
        ? [
            { kind: 'speed-measured', readBytesPerSecond: evidence.read * 1e6, writeBytesPerSecond: evidence.write * 1e6, isBaseline: true },
            { kind: 'check-confirmed', check: 'speed-measured' },
          ]
        : [];
    case 'arrange-copy': {
      const pool = Object.values(unit.pools)[0];
      if (evidence.kind !== 'text' || !pool) return [];
      return [
        { kind: 'data-set-described', dataSet: pool.id, name: pool.name, pool: pool.id },
        { kind: 'copy-described', dataSet: pool.id, copy: 'copy-1', where: evidence.text.slice(0, 120), keeps: 'versions', offSite: false, everyDays: 7 },
      ];
    }
  }
}
