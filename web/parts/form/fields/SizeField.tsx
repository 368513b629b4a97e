'use client';
import { useWatch } from 'react-hook-form';
import type { ReactNode } from 'react';
import { readSize } from '~/core/drive/readSize';
import { formatBytes, formatExactBytes } from '~/core/quantity/formatBytes';
import { isRefusal } from '~/core/value/refusal';
import { TextField } from './TextField';

interface Props {
  readonly name: string;
  readonly label: string;
  readonly placeholder?: string;
  readonly autoFocus?: boolean;
  readonly required?: boolean;
}

/** The size of a drive in any words; below it what was understood, to the byte. */
export function SizeField({ name, ...input }: Props): ReactNode {
  const typed = String(useWatch({ name }) ?? '').trim();
  const size = typed === '' ? null : readSize(typed);
  return (
    <TextField
      name={name}
      {...input}
      hint={
        size === null
          ? 'As on its label, or exact bytes or sectors'
          : isRefusal(size)
            ? size.sentence
            : `${formatBytes(size.bytes)}, ${formatExactBytes(size.bytes)}${size.basis === 'exact' ? '' : ', taken from its label'}`
      }
    />
  );
}
