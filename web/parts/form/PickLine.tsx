'use client';
import { useId, type ReactNode } from 'react';
import { Labelled } from './Labelled';
import { Select, type Option } from './Select';

interface Props {
  readonly label: string;
  readonly value: string;
  readonly options: readonly Option[];
  readonly onValue: (value: string) => void;
  readonly hint?: ReactNode;
  readonly name?: string;
  readonly isOff?: boolean;
}

/** A labelled choice that works at once, outside of a form. */
export function PickLine({ label, hint, ...select }: Props): ReactNode {
  const id = useId();
  return (
    <Labelled id={id} label={label} hint={hint}>
      <Select id={id} describedBy={`${id}-hint`} {...select} />
    </Labelled>
  );
}
