import type { ReactNode } from 'react';

interface Props<T extends string> {
  readonly legend: string;
  readonly name: string;
  readonly options: readonly (readonly [value: T, words: string])[];
  readonly value: T | null;
  readonly onValue: (value: T) => void;
}

/** One of a few answers, each a line to tap. */
export function Choices<T extends string>({ legend, name, options, value, onValue }: Props<T>): ReactNode {
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1 font-semibold">{legend}</legend>
      {options.map(([id, words]) => (
        <label key={id} className="flex min-h-9 items-center gap-3 border border-line bg-surface px-3 py-2 max-sm:min-h-11">
          <input type="radio" name={name} checked={value === id} onChange={() => onValue(id)} />
          {words}
        </label>
      ))}
    </fieldset>
  );
}
