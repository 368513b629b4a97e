'use client';
import { useId, type ReactNode } from 'react';
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
  return (
    <Labelled id={id} label={label} hint={hint} fault={fault}>
      <ComboInput
        id={id}
        name={name}
        label={label}
        value={String(field.value ?? '')}
        onValue={field.onChange}
        onBlur={field.onBlur}
        inputRef={field.ref}
        known={known}
        describedBy={`${id}-hint`}
        isWrong={fault !== undefined}
        {...(maxLength === undefined ? {} : { maxLength })}
      />
    </Labelled>
  );
}
