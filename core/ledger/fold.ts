import { isRefusal, type Refusal } from '../value/refusal';
import type { Recorded, TakenBack } from './recorded';

/** What a kind of ledger makes of one event: the state after it, or why it cannot have happened there. */
export type Apply<S, E> = (state: S | null, event: E, happenedAt: string) => S | Refusal;

/** By when it happened, then by the ledger's sequence: a late entry is placed where it belongs. */
export function byTime(a: Recorded<unknown>, b: Recorded<unknown>): number {
  return a.happenedAt < b.happenedAt ? -1 : a.happenedAt > b.happenedAt ? 1 : a.seq - b.seq;
}

/** The acts that no longer count. That one is taken back stands: a taking back is never taken back itself. */
export function takenBackIn<E extends { readonly kind: string }>(
  entries: readonly Recorded<E | TakenBack>[],
): ReadonlySet<string> {
  return new Set(entries.flatMap(({ event }) => (isTakingBack(event) ? event.act : [])));
}

/** True for the entry that takes an act back, in a ledger of any kind. */
export function isTakingBack(event: { readonly kind: string }): event is TakenBack {
  return event.kind === 'taken-back';
}

/** The entries that count, in the order in which they happened. Nothing is ever taken out of a ledger: a fold passes over it. */
export function standingOf<E extends { readonly kind: string }>(
  entries: readonly Recorded<E | TakenBack>[],
): Recorded<E>[] {
  const gone = takenBackIn(entries);
  return entries
    .filter(
      (entry): entry is Recorded<E> => !isTakingBack(entry.event) && (entry.act === undefined || !gone.has(entry.act)),
    )
    .sort(byTime);
}

/** A point of a history: the entry, and the state after it. */
export interface Point<S, E> {
  readonly entry: Recorded<E>;
  readonly state: S;
}

/** Every state a history passes through; or the refusal of the first entry that cannot have happened there, and which. */
export function pointsOf<S, E extends { readonly kind: string }>(
  entries: readonly Recorded<E | TakenBack>[],
  apply: Apply<S, E>,
): readonly Point<S, E>[] | { readonly refusal: Refusal; readonly at: Recorded<E> } {
  const points: Point<S, E>[] = [];
  let state: S | null = null;
  for (const entry of standingOf<E>(entries)) {
    const next: S | Refusal = apply(state, entry.event, entry.happenedAt);
    if (isRefusal(next)) return { refusal: next, at: entry };
    state = next;
    points.push({ entry, state });
  }
  return points;
}

/**
 * The state after all entries of a ledger, in the order they happened; one rule for units, drives and plans.
 *
 * @param entries in any order, `happenedAt` in UTC with one format, so that text order is time order
 * @returns `null` when nothing of the ledger counts; the refusal of the first entry that cannot have happened there
 */
export function foldLedger<S, E extends { readonly kind: string }>(
  entries: readonly Recorded<E | TakenBack>[],
  apply: Apply<S, E>,
): S | null | Refusal {
  const points = pointsOf(entries, apply);
  return 'refusal' in points ? points.refusal : (points.at(-1)?.state ?? null);
}
