'use client';
import { useState, type ReactNode } from 'react';
import { scansTyped } from '~/core/scan/scansTyped';
import { isSameSerial } from '~/core/drive/serial';
import { Serial } from '~/web/parts/unit/Serial';
import { SerialField } from '../SerialField';
import { useSheetField } from './useSheetField';

/** Serials one after another: each typed or scanned, then Enter; the same twice is one. */
export function SerialsField({ name, label }: { readonly name: string; readonly label: string }): ReactNode {
  const { field, fault } = useSheetField(name, label);
  const serials = (field.value ?? []) as readonly string[];
  const [typed, setTyped] = useState('');
  const [twice, setTwice] = useState<string | null>(null);
  const add = (text: string): void => {
    const wanted = scansTyped(text);
    const fresh = wanted.filter(
      (one, i) => ![...serials, ...wanted.slice(0, i)].some((other) => isSameSerial(one, other)),
    );
    setTwice(wanted.find((one) => !fresh.includes(one)) ?? null);
    if (fresh.length > 0) field.onChange([...serials, ...fresh]);
    setTyped('');
  };
  return (
    <div className="grid gap-2">
      <SerialField
        label={label}
        value={typed}
        hint="Scan or type, then Enter"
        onSerial={setTyped}
        onScanned={add}
        onSeveral={add}
        inputRef={field.ref}
        fault={twice === null ? fault : `${twice} is in the list already.`}
        onKeyDown={(event) => {
          // Enter sends the form only from an empty field.
          if (event.key !== 'Enter' || typed.trim() === '') return;
          event.preventDefault();
          add(typed);
        }}
      />
      {serials.length > 0 && (
        <ul className="flex flex-wrap gap-2" aria-label={`${String(serials.length)} so far`}>
          {serials.map((serial) => (
            <li key={serial} className="border border-line px-2 py-1">
              <Serial of={serial} />
              <button
                type="button"
                className="ml-2 text-action underline"
                onClick={() => field.onChange(serials.filter((one) => one !== serial))}
              >
                Leave out<span className="sr-only"> {serial}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
