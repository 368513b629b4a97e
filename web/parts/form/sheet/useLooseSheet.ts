'use client';
import type { FieldValues } from 'react-hook-form';
import { useSheet, type SheetState, type Unread } from './useSheet';

interface Given<V extends FieldValues> {
  readonly start: V;
  readonly checks?: (values: V) => Unread | null;
  /** Sends it: a sentence where that went wrong. */
  readonly does: (values: V) => Promise<string | null>;
  readonly done?: () => void;
  readonly then?: 'start' | 'sent';
}

/** A form that goes to no operation: to the sign-in, which has words and checks of its own, or nowhere beyond this page. Nothing of it is kept. */
export function useLooseSheet<V extends FieldValues>({
  start,
  checks = () => null,
  does,
  done = () => undefined,
  then = 'start',
}: Given<V>): SheetState<V> {
  return useSheet<V, never>({
    start,
    then,
    sends: null,
    asks: (values) => checks(values) ?? {},
    does: (_asked, values) => does(values),
    done,
  });
}
