'use client';
import { useEffect, useRef } from 'react';
import { useController, type UseControllerReturn } from 'react-hook-form';

interface SheetField {
  readonly field: UseControllerReturn['field'];
  /** What is wrong with it, as a sentence with its label in it. */
  readonly fault: string | undefined;
}

/**
 * Takes over what stands in a field before the page's own code runs: typed by somebody quick, or filled in by the browser.
 * Returns what to give to the element as `ref`.
 */
export function useTakesOver({
  ref,
  value,
  onChange,
}: SheetField['field']): (element: HTMLInputElement | HTMLTextAreaElement | null) => void {
  const own = useRef<HTMLInputElement | HTMLTextAreaElement>(null);
  useEffect(() => {
    const typed = own.current?.value ?? '';
    if (typed !== String(value ?? '')) onChange(typed);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the page's code begins
  }, []);
  return (element) => {
    own.current = element;
    ref(element);
  };
}

/** A field of the form around it, by its name. */
export function useSheetField(name: string, label: string): SheetField {
  const { field, fieldState } = useController({ name });
  const message = fieldState.error?.message;
  // A check says "is required."; a sentence of ours stands as it is.
  return { field, fault: message === undefined ? undefined : /^[a-z]/.test(message) ? `${label} ${message}` : message };
}

/** A field's props for an element that is given its `ref` by another name. */
export function withoutRef({ ref: _ref, ...props }: SheetField['field']): Omit<SheetField['field'], 'ref'> {
  return props;
}
