'use client';
import type { InputHTMLAttributes, ReactNode } from 'react';
import { Field } from './Field';

interface Props extends Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange' | 'className'> {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly fault?: string | undefined;
  readonly value: string;
  readonly onSerial: (serial: string) => void;
}

/** A serial wherever one is asked: typed, or sent by a hand scanner that types. */
export function SerialField({ onSerial, ...input }: Props): ReactNode {
  return (
    <Field
      autoComplete="off"
      autoCapitalize="characters"
      spellCheck={false}
      data-scan
      {...input}
      className="field font-mono text-lg"
      onChange={(event) => onSerial(event.target.value)}
    />
  );
}
