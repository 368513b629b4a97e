import { whyNotStock } from '../../move/stock';
import { freeName } from '../../unit/freeName';
import { BayName } from '../../unit/bayName';
import { CHECKS, type Check } from '../../../schemas/unitEvent';
import { printedSerial, serialKey } from '../../drive/serial';
import { planLayout } from '../../layout/planLayout';
import { apply } from '../../unit/apply';
import { grownByExpand } from '../../unit/grownByExpand';
import { poolsOf, driveInBay, type UnitState } from '../../unit/state';
import type { UnitEvent } from '../../unit/event';
import { poolChanged } from '../../unit/poolChanged';
import { eventsOfPoolSaid, POOL_SAYS, POOL_SAYS_WORDS } from '../../unit/poolSaid';
import { roomForVolume } from '../../unit/roomForVolume';
import { poolCreated } from '../../unit/poolCreated';
import { entryOf } from '../../value/entryOf';
import { isRefusal, refusal, type Refusal } from '../../value/refusal';
import { arrivalOf } from '../../unit/applyPoolMoved';
import { ARRIVALS, eventsOfCarryIn, type Units } from './carrying';
import {
  eventsOfBeginning,
  eventsOfConfirming,
  eventsOfForgetting,
  eventsOfProving,
  eventsOfTakingOver,
} from './copying';
import { eventsOfCache } from './cacheEmptied';
import { eventsOfCopy, whyNotCopy } from './copyGiven';
import { whyNotFates } from './fates';
import { itemsWords, whyNotItems } from './itemsCounted';
import { whyNotDrives } from './laidOut';
import { expectedSerial } from './expectedSerial';
import { serialMeant, type KnownDrive } from './knownDrive';
import { isWorkDone, workAgain } from './workAgain';
import type { Intention, PlanStep, StepEvidence } from '../plan';

/**
 * What a step changes, as events: its intentions against the state of this moment, with the evidence in hand. Only
 * `attempt` asks: whether it may be done is found there.
 */
export function eventsOfStep(
  unit: UnitState,
  step: PlanStep,
  evidence: StepEvidence,
  at: string,
  known?: KnownDrive,
  units: Units = {},
): UnitEvent[] | Refusal {
  const wrong = whyNotEvidence(step, evidence, at);
  if (wrong) return wrong;
  const events: UnitEvent[] = [];
  let state = unit;
  for (const intention of step.does) {
    const made = eventsOf(state, intention, { evidence, step, known, units });
    if (isRefusal(made)) return made;
    events.push(...made);
    // What a later intention is about may be there only by what an earlier one does; `attempt` tells what cannot be.
    for (const event of made) {
      const after = apply(state, event, state.registeredAt);
      if (!isRefusal(after)) state = after;
    }
  }
  return events;
}

function whyNotEvidence({ asks, does }: PlanStep, evidence: StepEvidence, at: string): Refusal | undefined {
  if (evidence.kind === 'unread' && asks.kind === 'serial' && asks.expects !== undefined) return undefined;
  if (evidence.kind === 'wrong-out' && asks.kind === 'serial') return undefined;
  if (
    evidence.kind === 'page' &&
    asks.kind === 'tick' &&
    does.some(({ kind }) => kind === 'finish-rebuild' || kind === 'finish-job')
  )
    return undefined;
  if (asks.kind !== evidence.kind)
    return refusal('evidence-kind', `This step asks for ${EVIDENCE_WORDS[asks.kind]}.`, '/evidence/kind');
  if (asks.kind === 'number' && evidence.kind === 'number') {
    const { least = -Infinity, most = Infinity, unit: of } = asks;
    if (evidence.number < least || evidence.number > most)
      return refusal(
        'out-of-range',
        `${String(evidence.number)} ${of} cannot be: it lies between ${String(least)} and ${String(most)}.`,
        '/evidence/number',
      );
  }
  if (evidence.kind === 'copy') return whyNotCopy(evidence, at);
  if (evidence.kind === 'drives') return whyNotDrives(asks, evidence);
  if (evidence.kind === 'fates') return whyNotFates(asks, evidence);
  if (evidence.kind === 'items') return whyNotItems(asks, evidence);
  if (asks.kind === 'choice' && evidence.kind === 'choice' && !asks.options.includes(evidence.choice))
    return refusal('choice-unknown', `Choose one of: ${asks.options.join('; ')}.`, '/evidence/choice');
  return undefined;
}

/** How it may end with a pool that had stopped; only the last says that its data is lost. */
export const RESCUE_ENDS = [
  'It is back, or nothing more is tried for now',
  'A recovery firm has it: not known yet',
  'It is given up: its data is lost, but for the copy',
] as const;

export const EVIDENCE_WORDS = {
  tick: 'a tick',
  serial: 'a serial, read off the drive',
  text: 'a few words',
  number: 'a number',
  speed: 'two speeds',
  copy: 'where the other copy is',
  picture: 'a picture',
  drives: 'serial, size and look of each drive',
  items: 'what is there, and what is missing',
  fates: 'what becomes of each drive',
  scans: 'a serial for each of its bays',
  page: 'what the unit’s own page says',
  choice: 'a choice',
  stock: 'a list of what it does for people',
} as const;

interface InHand {
  readonly evidence: StepEvidence;
  readonly step: PlanStep;
  readonly known: KnownDrive | undefined;
  readonly units: Units;
}

/** The serial a step ends up with: what was read, as the record has it; what was expected, where none was. */
function serialInHand(unit: UnitState, { evidence, step, known }: InHand, planned: string): string {
  const expects = expectedSerial(unit, step);
  return evidence.kind === 'serial' ? serialMeant(unit, evidence.serial, expects, known) : (expects ?? planned);
}

/**
 * Work that does not run by the record: done already where its end was heard otherwise; where it stopped, begun anew and
 * ended where its page says twice that it is done; else nothing ends by a tick.
 */
function endedUnseen(unit: UnitState, { evidence, step }: InHand): UnitEvent[] | Refusal {
  if (isWorkDone(unit, step)) return [];
  const again = workAgain(unit, step);
  if (again?.kind === 'job-started' && evidence.kind === 'page' && evidence.says === 'done' && evidence.again === true)
    return [again, { kind: 'job-finished', job: again.job }];
  return refusal(
    'work-stopped',
    'By the record that work has stopped. Start it again in the unit’s page, on the same drive, and say here what its page says.',
    '/step',
  );
}

function eventsOf(unit: UnitState, intention: Intention, inHand: InHand): UnitEvent[] | Refusal {
  const { evidence, known } = inHand;
  switch (intention.kind) {
    case 'fit-drive': {
      const { bay, serial: planned, printed: wished, ...drive } = intention.drive;
      const serial = serialInHand(unit, inHand, planned ?? `bay ${bay}`);
      const read = evidence.kind === 'serial' ? printedSerial(evidence.serial) : serial;
      // What was typed when it was planned is printed on the planned drive, and on no other that came instead.
      const form = serialKey(read) === serial ? read : serial === planned ? wished : undefined;
      const printed = form !== undefined && form !== serial ? { printed: form } : {};
      return [{ kind: 'drive-inserted', bay, drive: { serial, ...printed, ...drive, ...known?.facts } }];
    }
    case 'make-pool': {
      const { pool, name, scheme, groupWidth, spares, bays } = intention;
      const drives = bays.flatMap((bay) => driveInBay(unit, bay) ?? []);
      if (drives.length < bays.length) {
        const empty = bays.filter((bay) => !driveInBay(unit, bay));
        return refusal(
          'bay-empty',
          `${empty.map((bay) => BayName(unit, bay)).join(', ')} is still empty. The pool is made of the drives that are in.`,
          '/step',
        );
      }
      const planned = drives.map(({ bay, bytes, media }) => ({
        bay: bay ?? '',
        bytes,
        ...(media === undefined ? {} : { media }),
      }));
      const layout = planLayout(unit.profile, scheme, planned, spares, groupWidth);
      const made = poolCreated(layout, pool, name, new Map(drives.map(({ bay, serial }) => [bay ?? '', serial])));
      return isRefusal(made) ? made : [made];
    }
    case 'take-out-of-service':
      return [{ kind: 'drive-taken-out-of-service', serial: serialInHand(unit, inHand, intention.serial) }];
    case 'pull-drive':
      return [{ kind: 'drive-removed', serial: serialInHand(unit, inHand, intention.serial) }];
    case 'see-again':
      return [{ kind: 'drive-returned', serial: serialInHand(unit, inHand, intention.serial) }];
    case 'take-back':
      return [{ kind: 'pool-restored', pool: intention.pool, serials: [intention.serial] }];
    case 'start-rebuild': {
      const { pool, replaces, bay, task } = intention;
      const onto = evidence.kind === 'serial' ? serialInHand(unit, inHand, '') : driveInBay(unit, bay)?.serial;
      if (onto === undefined)
        return refusal('bay-empty', `${BayName(unit, bay)} is empty: there is nothing to rebuild onto.`, '/step');
      return [{ kind: 'job-started', job: freeName(unit.jobs, 'rebuild'), task, pool, replaces, onto }];
    }
    case 'take-over':
      return [
        {
          kind: 'spare-took-over',
          pool: intention.pool,
          spare: serialInHand(unit, inHand, intention.spare),
          replaces: intention.replaces,
          job: freeName(unit.jobs, 'rebuild'),
        },
      ];
    case 'finish-rebuild': {
      const job = Object.values(unit.jobs).find(
        ({ pool, replaces }) => pool === intention.pool && replaces === intention.replaces,
      );
      return job ? [{ kind: 'job-finished', job: job.id }] : endedUnseen(unit, inHand);
    }
    case 'assign-spare': {
      const serial = driveInBay(unit, intention.bay)?.serial;
      return serial === undefined
        ? refusal('bay-empty', `${BayName(unit, intention.bay)} is empty.`, '/step')
        : [{ kind: 'spare-assigned', pool: intention.pool, serial }];
    }
    case 'release-spare':
      // One that has stepped in meanwhile is none any more.
      return unit.pools[intention.pool]?.spares.includes(intention.serial) === true
        ? [{ kind: 'spare-released', pool: intention.pool, serial: intention.serial }]
        : [];
    case 'expand': {
      const pool = unit.pools[intention.pool];
      const grown = pool && grownByExpand(unit, pool);
      return grown ? [grown] : [];
    }
    case 'add-drives': {
      const { pool, bays } = intention;
      const empty = bays.filter((bay) => !driveInBay(unit, bay));
      if (empty.length > 0)
        return refusal(
          'bay-empty',
          `${empty.map((bay) => BayName(unit, bay)).join(', ')} is still empty: there is nothing to add.`,
          '/step',
        );
      const missing = entryOf(unit.pools, pool)?.missing ?? [];
      if (missing.length > 0)
        return refusal(
          'others-missing',
          `${missing.join(', ')} is missing by now: that is rebuilt first, then drives are added.`,
          '/step',
        );
      const made = poolChanged(unit, { kind: 'added', pool, bays }, '');
      return isRefusal(made) ? { ...made, pointer: '/step' } : [made];
    }
    case 'change-level': {
      const { pool, to, bays } = intention;
      const made = poolChanged(unit, { kind: 'became', pool, to, bays }, '');
      return isRefusal(made) ? { ...made, pointer: '/step' } : [made];
    }
    case 'attach-enclosure':
      return [{ kind: 'enclosure-added', enclosure: intention.enclosure }];
    case 'enlarge-volume': {
      const volume = entryOf(unit.volumes, intention.volume);
      const pool = volume && entryOf(unit.pools, volume.pool);
      const bytes = volume && pool ? roomForVolume(unit, volume) : 0;
      if (!volume || bytes <= volume.bytes) return [];
      const { id, ...body } = volume;
      return [{ kind: 'volume-set', volume: id, ...body, bytes }];
    }
    case 'set-cache':
      return eventsOfCache(unit, intention, evidence);
    case 'pack':
      return [{ kind: 'unit-packed', to: intention.to }];
    case 'unpack':
      return [
        { kind: 'unit-unpacked' },
        ...(evidence.kind === 'choice' && evidence.choice !== ARRIVALS[0]
          ? [{ kind: 'sign-noted' as const, note: 'Its page does not show every pool as it was, with the drives back' }]
          : []),
      ];
    case 'take-stock':
      return evidence.kind === 'stock'
        ? (whyNotStock(evidence.lines) ??
            // A part of the stock is no stock: it stands in the plan alone.
            (intention.goesTo === undefined ? [{ kind: 'stock-taken', lines: evidence.lines }] : []))
        : [];
    case 'carry-in':
      return eventsOfCarryIn(intention, evidence, inHand.units);
    case 'leave':
      return poolsOf(unit).map(({ id }) => ({ kind: 'pool-left', pool: id, to: intention.to }));
    case 'arrive': {
      const from = entryOf(inHand.units, intention.from);
      return from
        ? poolsOf(from).map((pool) => arrivalOf(pool, intention.from, unit))
        : refusal('not-found', 'The unit it comes from is not at hand.', '/step');
    }
    case 'begin-copies':
      return eventsOfBeginning(unit, intention.to, intention.pool, inHand.units, intention.dataSets);
    case 'confirm-copies':
      return eventsOfConfirming(unit, intention.to, intention.outcome);
    case 'take-over-data':
      return eventsOfTakingOver(intention.unit ?? '', intention.from, intention.pool, inHand.units, intention.dataSets);
    case 'hand-over-data':
      return [
        {
          kind: 'data-handed-over',
          to: intention.to,
          ...(intention.dataSets === undefined ? {} : { dataSets: intention.dataSets }),
        },
      ];
    case 'prove-copies':
      return eventsOfProving(unit, intention.besides, intention.dataSets);
    case 'forget-copies':
      return eventsOfForgetting(unit, intention.on, intention.dataSets);
    case 'destroy-pool':
      return [{ kind: 'pool-destroyed', pool: intention.pool }];
    case 'hear-pool': {
      const pool = entryOf(unit.pools, intention.pool);
      const says = POOL_SAYS.find((one) => evidence.kind === 'choice' && POOL_SAYS_WORDS[one] === evidence.choice);
      return pool && says ? [...eventsOfPoolSaid(unit, pool, says)] : [];
    }
    case 'end-rescue': {
      const pool = entryOf(unit.pools, intention.pool);
      return pool && evidence.kind === 'choice' && evidence.choice === RESCUE_ENDS[2]
        ? [{ kind: 'pool-lost', pool: pool.id, note: 'given up at the rescue desk' }]
        : [];
    }
    case 'clear-signs':
      return unit.signs.length > 0 ? [{ kind: 'signs-cleared' }] : [];
    case 'take-drive':
    case 'lay-out':
    case 'towards-pool':
    case 'decide-fates':
    case 'keep-until':
      return [];
    case 'retire':
      return [{ kind: 'unit-retired', ...(evidence.kind === 'text' ? { note: evidence.text.slice(0, 400) } : {}) }];
    case 'count-drives':
      return evidence.kind === 'number'
        ? [
            {
              kind: 'drives-counted',
              seen: evidence.number,
              expected: intention.expected,
              enclosure: intention.enclosure,
            },
          ]
        : [];
    case 'note':
      return evidence.kind === 'text'
        ? [{ kind: 'noted', note: evidence.text.slice(0, 400) }]
        : evidence.kind === 'items' && evidence.missing.length > 0
          ? [{ kind: 'noted', note: `Missing: ${itemsWords(evidence.missing)}`.slice(0, 400) }]
          : [];
    case 'switch-power':
      return [{ kind: 'power', on: intention.on }];
    case 'write-down':
      return evidence.kind === 'text'
        ? [{ kind: 'unit-described', details: { [intention.field]: evidence.text } }]
        : [];
    case 'update-firmware':
      return evidence.kind === 'text' ? [{ kind: 'firmware-updated', version: evidence.text.slice(0, 40) }] : [];
    case 'confirm':
      return (CHECKS as readonly string[]).includes(intention.check)
        ? [{ kind: 'check-confirmed', check: intention.check as Check }]
        : [];
    case 'start-job':
      return [
        { kind: 'job-started', job: freeName(unit.jobs, intention.task), task: intention.task, pool: intention.pool },
      ];
    case 'finish-job': {
      const job = Object.values(unit.jobs).find(({ pool, task }) => pool === intention.pool && task === intention.task);
      return job ? [{ kind: 'job-finished', job: job.id }] : endedUnseen(unit, inHand);
    }
    case 'make-volume': {
      const { pool, name, thin, fileSystem, checksums } = intention;
      const bytes = unit.profile.volumes.nominalBytes ?? unit.pools[pool]?.shownBytes ?? 0;
      const chosen = {
        ...(fileSystem === undefined ? {} : { fileSystem }),
        ...(checksums === undefined ? {} : { checksums }),
      };
      return bytes > 0
        ? [{ kind: 'volume-set', volume: freeName(unit.volumes, 'volume'), pool, name, bytes, thin, ...chosen }]
        : [];
    }
    case 'measure-speed':
      return evidence.kind === 'speed'
        ? [
            {
              kind: 'speed-measured',
              readBytesPerSecond: evidence.read * 1e6,
              writeBytesPerSecond: evidence.write * 1e6,
              isBaseline: true,
            },
            { kind: 'check-confirmed', check: 'speed-measured' },
          ]
        : [];
    case 'arrange-copy':
      return eventsOfCopy(unit, intention, evidence);
    case 'see-space':
      return evidence.kind === 'number'
        ? [{ kind: 'noted', note: `Its page shows ${String(evidence.number)} ${unit.profile.unitPage.counts}.` }]
        : [];
  }
}
