import { foldLedger, isTakingBack, takenBackIn } from '../ledger/fold';
import type { TakenBack } from '../ledger/recorded';
import { difference, type Hazard } from '../unit/preview';
import type { UnitState } from '../unit/state';
import { isRefusal, refusal, type Refusal } from '../value/refusal';
import type { Act } from './act';
import { nameText, rulesOf, type AnyEvent, type AnyState, type Ledger } from './ledger';
import type { Written } from './act';
import type { RecordedAct } from './record';
import type { World } from './world';

/** Who takes an act back, when, and why. */
export interface TakingBack extends Pick<Act, 'id' | 'by' | 'happenedAt'> {
  readonly act: string;
  readonly reason: string;
}

/**
 * Takes a whole act back, in every ledger it touched: its entries stay where they are, and no longer count. It stands:
 * what was right after all is recorded again.
 *
 * @param world every ledger the act touched, with its history
 */
export function takeBack(world: World, { id, by, happenedAt, act, reason }: TakingBack): RecordedAct | Refusal {
  // In one order, whichever way the world was put together.
  const touched = Object.values(world.ledgers)
    .filter(({ history }) => history?.some((entry) => entry.act === act))
    .sort((a, b) => (nameText(a) < nameText(b) ? -1 : 1));
  if (touched.length === 0) return refusal('entry-unknown', 'There is no such entry to take back.', '/act');
  const event: TakenBack = { kind: 'taken-back', act, reason };
  const hazards: Hazard[] = [];
  const ledgers: Ledger[] = [];
  const written: Written[] = [];
  for (const ledger of touched) {
    const history = ledger.history ?? [];
    if (history.some((entry) => entry.act === act && isTakingBack(entry.event)))
      return refusal('entry-stands', 'A withdrawal stands. Record again what was right after all.', '/act');
    if (takenBackIn<AnyEvent>(history).has(act))
      return refusal('entry-withdrawn', 'This is taken back already.', '/act');
    const seq = ledger.version + 1;
    const longer = [...history, { seq, happenedAt, event, act: id }];
    const state = foldLedger<AnyState, AnyEvent>(longer, rulesOf(ledger));
    if (isRefusal(state)) return restsOnIt(state);
    if (state?.kind === 'unit')
      hazards.push(
        ...difference(ledger.state as UnitState | null, state).hazards.filter(({ code }) => code !== 'erases'),
      );
    const lastHappenedAt =
      ledger.lastHappenedAt !== null && ledger.lastHappenedAt > happenedAt ? ledger.lastHappenedAt : happenedAt;
    ledgers.push({ ...ledger, version: seq, lastHappenedAt, state, history: longer });
    written.push({ kind: ledger.kind, id: ledger.id, seq, event });
  }
  return { kind: 'recorded', act: { id, by, happenedAt }, ledgers, written, hazards, messages: [] };
}

function restsOnIt({ pointer: _pointer, ...no }: Refusal): Refusal {
  const rests = no.code === 'not-registered' || no.code === 'drive-unknown' || no.code === 'plan-unknown';
  return rests
    ? refusal('rests-on-it', 'Other entries rest on this one: take those back first.', '/act')
    : { ...no, sentence: `What was recorded since rests on it: ${no.sentence}`, pointer: '/act' };
}
