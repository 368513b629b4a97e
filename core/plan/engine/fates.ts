import { serialKey } from '../../drive/serial';
import type { DriveEvent } from '../../driveLife/event';
import type { ActEntry } from '../../world/act';
import { driveLedger } from '../../world/ledger';
import { refusal, type Refusal } from '../../value/refusal';
import type { PlanStep, StepEvidence } from '../plan';
import type { Fate } from './fateWords';
import type { Interlock } from './interlock';

/** What becomes of drives that left a unit: written in each drive's own ledger, by the step that decides it. */

type Fates = Extract<StepEvidence, { kind: 'fates' }>;

/** Every drive it is asked of, each once. */
export function whyNotFates(asks: PlanStep['asks'], { fates }: Fates): Refusal | undefined {
  if (asks.kind !== 'fates') return undefined;
  for (const [i, { serial }] of fates.entries()) {
    const here = `/evidence/fates/${String(i)}/serial`;
    if (!asks.serials.includes(serialKey(serial)))
      return refusal('serial-unknown', `${serial} is none of the drives this step is about.`, here);
    if (fates.slice(0, i).some((one) => serialKey(one.serial) === serialKey(serial)))
      return refusal('scanned-twice', `${serial} is in the list twice.`, here);
  }
  const open = asks.serials.find((serial) => !fates.some((one) => serialKey(one.serial) === serial));
  return open === undefined
    ? undefined
    : refusal('not-decided', `Not decided yet: what becomes of ${open}.`, '/evidence/fates');
}

/** What is written in the ledgers of the drives. */
export function entriesOfFates(evidence: StepEvidence): readonly ActEntry[] {
  if (evidence.kind !== 'fates') return [];
  return evidence.fates.flatMap(({ serial, wiped, goes }) =>
    [...(wiped ? [{ kind: 'wiped' as const, ...wiped }] : []), ...whereTo(goes)].map((event) => ({
      ledger: driveLedger(serialKey(serial)),
      event,
    })),
  );
}

function whereTo(goes: Fate['goes']): DriveEvent[] {
  switch (goes.kind) {
    case 'stays':
      return [];
    case 'drawer': {
      const { site, room, drawer } = goes;
      return [{ kind: 'put-in-drawer', drawer: { site, room, drawer } }];
    }
    case 'warranty':
      return [{ kind: 'sent-under-warranty', to: goes.to, ...(goes.claim === undefined ? {} : { claim: goes.claim }) }];
    case 'away':
      return [{ kind: 'sent-away', to: goes.to }];
  }
}

/** What leaves the house unwiped takes along what is on it; a wipe nobody checked is hoped for. */
export function interlocksOfFates(step: PlanStep, evidence: StepEvidence): Interlock[] {
  if (evidence.kind !== 'fates' || step.asks.kind !== 'fates') return [];
  return evidence.fates.flatMap(({ serial, wiped, goes }): Interlock[] => {
    if (goes.kind !== 'away' && goes.kind !== 'warranty') return [];
    const isDestroyed = wiped?.method === 'destroy';
    if (wiped && (wiped.checked || isDestroyed)) return [];
    return [
      {
        kind: 'interlock',
        code: 'unwiped',
        sentence: wiped
          ? `${serial} leaves the house, and nobody has looked whether anything can still be read from it.`
          : `${serial} leaves the house with what is on it.`,
        back: 'Wipe it and look that it is empty; or have it shredded where it cannot be wiped any more. An owner may send it as it is, with the reason.',
        serial: serialKey(serial),
        mayOverride: true,
      },
    ];
  });
}
