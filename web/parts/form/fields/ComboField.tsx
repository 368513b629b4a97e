'use client';
import { useCallback, useId, useState, type ReactNode } from 'react';
import { Labelled } from '../Labelled';
import { ComboInput } from '../ComboInput';
import { useSheetField } from './useSheetField';

interface Props {
  readonly name: string;
  readonly label: string;
  readonly hint?: ReactNode;
  readonly maxLength?: number;
  readonly known: readonly string[];
}

/** Text, with what is known already to choose from while it is typed. */
export function ComboField({ name, label, hint, maxLength, known }: Props): ReactNode {
  const id = useId();
  const { field, fault } = useSheetField(name, label);
  // The list names its field itself; the label goes by that name.
  const [named, setNamed] = useState(id);
  const { ref } = field;
  const take = useCallback(
    (element: HTMLInputElement | null) => {
      ref(element);
      if (element) setNamed(element.id);
    },
    [ref],
  );
  return (
    <Labelled id={id} labelFor={named} label={label} hint={hint} fault={fault}>
      <ComboInput
        name={name}
        label={label}
        value={String(field.value ?? '')}
        onValue={field.onChange}
        onBlur={field.onBlur}
        inputRef={take}
        known={known}
        describedBy={`${id}-hint`}
        isWrong={fault !== undefined}
        {...(maxLength === undefined ? {} : { maxLength })}
      />
    </Labelled>
  );
}
