import { dayOf } from '../quantity/days';
import { driveInBay } from '../unit/state';
import { need, type NeedForHands, type WatchedUnit } from './need';

/** What needs hands because of what was heard of a unit, or was not: by asking it, and by its mail. */
export function watchNeeds(unit: WatchedUnit): NeedForHands[] {
  return [...lettersOf(unit), ...heardOf(unit)];
}

function lettersOf(unit: WatchedUnit): NeedForHands[] {
  const { letters, state } = unit;
  if (!letters) return [];
  const more = letters.count === 1 ? '' : ` And ${String(letters.count - 1)} more.`;
  return [
    need(
      unit,
      letters.isOfFailure ? 'unit-wrote-failure' : 'unit-wrote',
      letters.isOfFailure ? 9 : 13,
      `${state.name} · has written${letters.isOfFailure ? ' of a failure' : ''}: “${letters.subject === '' ? 'no subject' : letters.subject.slice(0, 80)}”`,
      `On ${dayOf(letters.cameAt)}.${more} Read it, and settle what it says; nothing of it is on record before.`,
    ),
  ];
}

function heardOf(unit: WatchedUnit): NeedForHands[] {
  const { state, watch } = unit;
  // Off, or being emptied, by what is on record: then it says what is known, or nothing.
  if (!watch || state.power === 'off' || state.packed) return [];
  const [first, ...others] = doubtsOf(unit, watch.doubtful);
  return [
    ...(watch.silentSince === undefined
      ? []
      : [
          need(
            unit,
            'watch-silent',
            17,
            `${state.name} · does not answer the watch`,
            `Since ${dayOf(watch.silentSince)}. ${watch.why ?? ''} Nobody is told of what happens there until it does.`,
          ),
        ]),
    ...(first === undefined
      ? []
      : [
          need(
            unit,
            'unit-says-otherwise',
            14,
            `${state.name} · says otherwise than the record`,
            `${first.sentence}${others.length === 0 ? '' : ` And ${String(others.length)} more.`} Look at it, then settle which of the two is right.`,
          ),
        ]),
  ];
}

/** While hands are at work by a plan, what it moves is said there; a drive that no plan takes out is told all the same. */
function doubtsOf(
  { state }: WatchedUnit,
  doubtful: NonNullable<WatchedUnit['watch']>['doubtful'],
): NonNullable<WatchedUnit['watch']>['doubtful'] {
  const plans = Object.values(state.plans);
  if (plans.length === 0) return doubtful;
  const planned = new Set(plans.flatMap(({ serials }) => serials));
  return doubtful.filter(({ code, bay }) => {
    const serial = driveInBay(state, bay)?.serial;
    return (code === 'gone' || code === 'not-reported') && serial !== undefined && !planned.has(serial);
  });
}
