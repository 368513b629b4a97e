'use client';
import type { InputHTMLAttributes, ReactNode, TextareaHTMLAttributes } from 'react';
import { Area as PlainArea, Field } from '../Field';
import { useSheetField, useTakesOver, withoutRef } from './useSheetField';

interface Named {
  readonly name: string;
  readonly label: string;
  readonly hint?: ReactNode;
}

type Taken = 'name' | 'value' | 'defaultValue' | 'onChange' | 'onBlur';

/** A line of text, a number, a date or a time: whatever the browser has a field for. */
export function TextField({
  name,
  label,
  hint,
  ...input
}: Named & { readonly suffix?: string } & Omit<InputHTMLAttributes<HTMLInputElement>, Taken>): ReactNode {
  const { field, fault } = useSheetField(name, label);
  const take = useTakesOver(field);
  return (
    <Field
      autoComplete="off"
      {...input}
      {...withoutRef(field)}
      inputRef={take}
      label={label}
      hint={hint}
      fault={fault}
    />
  );
}

/** Text of several lines. */
export function AreaField({
  name,
  label,
  hint,
  ...area
}: Named & Omit<TextareaHTMLAttributes<HTMLTextAreaElement>, Taken>): ReactNode {
  const { field, fault } = useSheetField(name, label);
  const take = useTakesOver(field);
  return <PlainArea {...area} {...withoutRef(field)} areaRef={take} label={label} hint={hint} fault={fault} />;
}

/** A number with its unit behind it. */
export function NumberField({
  unit,
  ...input
}: Named & { readonly unit?: string } & Omit<InputHTMLAttributes<HTMLInputElement>, Taken | 'type'>): ReactNode {
  return <TextField {...input} type="number" inputMode="decimal" {...(unit === undefined ? {} : { suffix: unit })} />;
}

/** A day. */
export function DateField(input: Named & Omit<InputHTMLAttributes<HTMLInputElement>, Taken | 'type'>): ReactNode {
  return <TextField {...input} type="date" />;
}

/** When it happened: in the reader's own zone; left empty it is now. */
export function WhenField({ name = 'when', label = 'When', hint = 'Left empty means now' }: Partial<Named>): ReactNode {
  return <TextField name={name} label={label} hint={hint} type="datetime-local" />;
}

/** A moment typed into a field of a moment, as it is sent; nothing where it was left empty. */
export function momentTyped(when: string): { readonly happenedAt?: string } {
  return when === '' ? {} : { happenedAt: new Date(when).toISOString() };
}
