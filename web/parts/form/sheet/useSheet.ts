'use client';
import { toNestErrors } from '@hookform/resolvers';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, type BaseSyntheticEvent } from 'react';
import {
  useForm,
  type DefaultValues,
  type FieldErrors,
  type FieldValues,
  type Path,
  type Resolver,
  type UseFormReturn,
} from 'react-hook-form';
import { isRefusal, type Refusal } from '~/core/value/refusal';
import type { OperationName } from '~/service/contract';
import { api, type AnswerOf, type AskedOf } from '../api';
import { byField, faultsOf, loadCheck } from './faultsOf';
import { forgetHalfFilled, halfFilledOf, keepHalfFilled } from './halfFilled';
import { useAsksBeforeLeaving } from './leaving';

/** Fields that cannot be read, each with a sentence; `root` is the form as a whole. */
export interface Unread {
  readonly kind: 'unread';
  readonly fields: Readonly<Record<string, string>>;
}

export function unread(fields: Readonly<Record<string, string>>): Unread {
  return { kind: 'unread', fields };
}

/** What an operation is asked with; nothing in particular where it goes to none. */
type Asked<N extends OperationName> = [N] extends [never] ? object : AskedOf<N>;

export interface SheetGiven<V extends FieldValues, N extends OperationName> {
  readonly start: V;
  /** The operation it goes to: its body is checked here with the schema the server checks it with. `null` goes to the sign-in, by `does`. */
  readonly sends: N | null;
  readonly asks: (values: V) => Asked<N> | Unread;
  /** Where values stand in the body, for fields that do not stand at its top under their own name. */
  readonly at?: Readonly<Record<string, string>>;
  /** The name under which it is kept half filled; without one it is not, as where a password is typed. */
  readonly keep?: string;
  /** What is done instead of sending it: a sentence where that went wrong, or a refusal with the place of what is wrong. */
  readonly does?: (asked: Asked<N>, values: V) => Promise<string | Refusal | null>;
  readonly done?: (answer: AnswerOf<N>, values: V) => void;
  /** What stands there once it is sent: what stood at first, or what was sent. */
  readonly then?: 'start' | 'sent';
}

export interface SheetState<V extends FieldValues> {
  readonly form: UseFormReturn<V>;
  readonly submit: (event?: BaseSyntheticEvent) => Promise<void>;
  readonly busy: boolean;
  readonly fault: string | undefined;
  /** When what stands there was typed, where that was before and had not been sent (ISO 8601). */
  readonly draftOf: string | null;
  readonly startAfresh: () => void;
}

/**
 * A form on one operation: checked by its schema, each fault at its field, sent once, kept until it is. What is wrong,
 * unsent or unreachable stays typed.
 */
export function useSheet<V extends FieldValues, N extends OperationName = never>(
  given: SheetGiven<V, N>,
): SheetState<V> {
  const router = useRouter();
  const latest = useRef(given);
  useEffect(() => {
    latest.current = given;
  });
  const { keep, start, sends } = given;
  const [draftOf, setDraftOf] = useState<string | null>(null);
  const resolver: Resolver<V> = async (values, _context, options) => {
    const { asks } = latest.current;
    const asked = asks(values);
    const found = isUnread(asked)
      ? asked.fields
      : sends === null
        ? {}
        : byField(
            await faultsOf(sends, (asked as { readonly body?: unknown }).body),
            pointersOf(values, latest.current.at),
          );
    if (Object.keys(found).length === 0) return { values, errors: {} };
    const errors = Object.fromEntries(
      Object.entries(found).map(([name, message]) => [name, { type: 'schema', message }]),
    ) as FieldErrors<V>;
    return { values: {}, errors: toNestErrors(errors, options) };
  };
  const form = useForm<V>({ defaultValues: start as DefaultValues<V>, resolver });
  const { isDirty, isSubmitting, errors } = form.formState;
  useAsksBeforeLeaving(isDirty && !isSubmitting);
  useEffect(() => {
    if (isDirty && sends !== null) void loadCheck(sends);
  }, [isDirty, sends]);

  useEffect(() => {
    if (keep === undefined) return undefined;
    const before = halfFilledOf(keep);
    if (before) {
      form.reset({ ...form.getValues(), ...before.values }, { keepDefaultValues: true });
      // eslint-disable-next-line react-hooks/set-state-in-effect -- only the browser knows what it keeps
      setDraftOf(before.at);
    }
    return form.subscribe({ formState: { values: true }, callback: ({ values }) => keepHalfFilled(keep, values) });
  }, [keep, form]);

  const putBack = (values: V): void => {
    form.reset(values as DefaultValues<V>);
    if (keep !== undefined) forgetHalfFilled(keep);
    setDraftOf(null);
  };
  const send = async (values: V): Promise<void> => {
    const { asks, does, done, at } = latest.current;
    const asked = asks(values);
    if (isUnread(asked)) return;
    let answer: AnswerOf<N> | undefined;
    const refuse = (sentence: string, byPlace: Readonly<Record<string, string>>): void => {
      const faults = Object.entries(byPlace).map(([place, detail]) => ({
        pointer: `/${place.replace(/^\//, '')}`,
        detail,
      }));
      const { root: _elsewhere, ...fields } = byField(faults, pointersOf(values, at));
      for (const [name, message] of Object.entries(fields)) form.setError(name as Path<V>, { message });
      form.setError('root', { message: sentence });
    };
    if (does) {
      const fault = await does(asked, values);
      if (isRefusal(fault))
        return refuse(fault.sentence, fault.pointer === undefined ? {} : { [fault.pointer]: fault.sentence });
      if (fault !== null) return form.setError('root', { message: fault });
    } else if (sends !== null) {
      const sent = await api(sends, asked as AskedOf<N>);
      if (sent.kind === 'refused') {
        // Somebody was first: what they recorded is looked at, and what is typed here may be sent after it.
        if (sent.code === 'version-conflict') router.refresh();
        return refuse(sent.sentence, sent.fields);
      }
      answer = sent.answer;
    }
    putBack(latest.current.then === 'sent' ? values : latest.current.start);
    done?.(answer as AnswerOf<N>, values);
    return undefined;
  };
  return {
    form,
    submit: (event) => form.handleSubmit(send)(event),
    busy: isSubmitting,
    fault: (errors as { readonly root?: { readonly message?: string } }).root?.message,
    draftOf,
    startAfresh: () => putBack(latest.current.start),
  };
}

export function isUnread(asked: object): asked is Unread {
  return 'kind' in asked && asked.kind === 'unread';
}

/** Every field with the place of its value in the body. */
function pointersOf(values: object, at: Readonly<Record<string, string>> = {}): Record<string, string> {
  return { ...Object.fromEntries(Object.keys(values).map((name) => [name, `/${name}`])), ...at };
}
