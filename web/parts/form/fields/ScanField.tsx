'use client';
import type { ReactNode } from 'react';
import { SerialField } from '../SerialField';
import { useSheetField } from './useSheetField';

interface Props {
  readonly name: string;
  readonly label: string;
  readonly hint?: ReactNode;
  readonly autoFocus?: boolean;
  readonly expects?: readonly string[];
  readonly onScanned?: (serial: string) => void;
}

/** A serial: typed, sent by a hand scanner, or read by the camera. */
export function ScanField({ name, label, ...more }: Props): ReactNode {
  const { field, fault } = useSheetField(name, label);
  return (
    <SerialField
      label={label}
      name={name}
      {...more}
      value={String(field.value ?? '')}
      onSerial={field.onChange}
      fault={fault}
      inputRef={field.ref}
    />
  );
}
