import { refusal, type Refusal } from '../../core/value/refusal';
import type { RecordedAct } from '../../core/world/record';
import { takenActSchema } from '../../schemas/takeAway';
import { compileCheck } from '../door/validation';

const check = compileCheck(takenActSchema);

/** Acts as an export writes them, whichever they are read from. */
export function asTaken(
  { act: { id, happenedAt, by }, written }: Pick<RecordedAct, 'act' | 'written'>,
  recordedAt: string,
) {
  return {
    id,
    happenedAt,
    recordedAt,
    by,
    entries: written.map((one) => ({ [one.kind]: one.id, seq: one.seq, event: one.event })),
  };
}

/** What is wrong with the form of an act, as an export would write it; `undefined` when nothing is. */
export function faultOfForm(act: ReturnType<typeof asTaken>): string | undefined {
  const checked = check(act);
  if (checked.kind === 'valid') return undefined;
  const [first] = checked.errors;
  return first ? `${first.pointer.slice(2).replaceAll('/', ' ')} ${first.detail}` : 'it fits no form.';
}

/** Nothing is written here that could not be brought back: what an act came to is held against the schema of exports. */
export function whyNotKept(recorded: Pick<RecordedAct, 'act' | 'written'>): Refusal | undefined {
  const fault = faultOfForm(asTaken(recorded, recorded.act.happenedAt));
  return fault === undefined ? undefined : refusal('cannot-be-kept', `This cannot be kept as it is: ${fault}`);
}
