import { dayOf } from '../quantity/days';
import { need, type NeedForHands, type WatchedUnit } from './need';

/** What needs hands because of what the watch heard, or did not hear. */
export function watchNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state, watch } = unit;
  if (!watch) return [];
  const [first, ...others] = watch.doubtful;
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
    // While hands are at work by a plan, it says so there.
    ...(first === undefined || Object.keys(state.plans).length > 0
      ? []
      : [
          need(
            unit,
            'unit-says-otherwise',
            14,
            `${state.name} · says otherwise than the record`,
            `${first}${others.length === 0 ? '' : ` And ${String(others.length)} more.`} Look at it, then settle which of the two is right.`,
          ),
        ]),
  ];
}
