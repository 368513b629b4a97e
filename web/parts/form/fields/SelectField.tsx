'use client';
import { useId, type ReactNode } from 'react';
import { useFormContext } from 'react-hook-form';
import { Labelled } from '../Labelled';
import { Radios, type RadioOption } from '../Radios';
import { Select, type Option } from '../Select';
import { Tick } from '../Tick';
import { useSheetField } from './useSheetField';

interface Choosing {
  readonly name: string;
  readonly label: string;
  readonly options: readonly Option[];
  readonly hint?: ReactNode;
  readonly isOff?: boolean;
  readonly onChosen?: (value: string) => void;
  /** What is shown as chosen as long as nobody has chosen. */
  readonly shown?: string;
}

/** One of several. */
export function SelectField({ name, label, options, hint, isOff = false, onChosen }: Choosing): ReactNode {
  const id = useId();
  const { field, fault } = useSheetField(name, label);
  return (
    <Labelled id={id} label={label} hint={hint} fault={fault}>
      <Select
        id={id}
        name={name}
        options={options}
        value={String(field.value ?? '')}
        onValue={(value) => {
          field.onChange(value);
          onChosen?.(value);
        }}
        onBlur={field.onBlur}
        triggerRef={field.ref}
        isOff={isOff}
        describedBy={`${id}-hint`}
        isWrong={fault !== undefined}
      />
    </Labelled>
  );
}

/** One of a few, all of them in sight. */
export function RadioField({
  name,
  label,
  options,
  isOff = false,
  onChosen,
  shown = '',
}: Omit<Choosing, 'hint' | 'options'> & { readonly options: readonly RadioOption[] }): ReactNode {
  const { field, fault } = useSheetField(name, label);
  return (
    <Radios
      legend={label}
      name={name}
      options={options}
      value={String(field.value || shown)}
      onValue={(value) => {
        field.onChange(value);
        onChosen?.(value);
      }}
      firstRef={field.ref}
      fault={fault}
      isOff={isOff}
    />
  );
}

/** Yes or no. */
export function TickField({ name, words }: { readonly name: string; readonly words: string }): ReactNode {
  const { field } = useSheetField(name, words);
  return <Tick words={words} name={name} isOn={field.value === true} onChange={field.onChange} boxRef={field.ref} />;
}

/** Any of several. */
export function TicksField({
  name,
  label,
  options,
  columns = false,
}: Pick<Choosing, 'name' | 'label' | 'options'> & { readonly columns?: boolean }): ReactNode {
  const { field, fault } = useSheetField(name, label);
  const { getValues } = useFormContext();
  const chosen = Array.isArray(field.value) ? (field.value as readonly string[]) : [];
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">{label}</legend>
      <div className={columns ? 'grid sm:grid-cols-2' : 'flex flex-wrap gap-x-5'}>
        {options.map(({ value, words }) => (
          <Tick
            key={value}
            words={words}
            name={name}
            value={value}
            isOn={chosen.includes(value)}
            onChange={(isOn) => {
              // As it is now: two may be ticked before either is drawn.
              const now = getValues(name) as readonly string[];
              field.onChange(
                options.map((one) => one.value).filter((one) => (one === value ? isOn : now.includes(one))),
              );
            }}
          />
        ))}
      </div>
      {fault !== undefined && <p className="mt-1 text-sm font-semibold text-thinned">{fault}</p>}
    </fieldset>
  );
}
