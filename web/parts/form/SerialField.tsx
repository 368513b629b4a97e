'use client';
import type { InputHTMLAttributes, ReactNode, Ref } from 'react';
import { CameraButton } from '~/web/parts/scan/CameraButton';
import { Field } from './Field';

interface Props extends Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange' | 'className'> {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly fault?: string | undefined;
  readonly value: string;
  readonly inputRef?: Ref<HTMLInputElement>;
  /** Serials that are meant here, as far as that is known: of several codes on a label, one of these is taken. */
  readonly expects?: readonly string[];
  readonly onSerial: (serial: string) => void;
  /** The camera has read it: nobody has to press Enter. */
  readonly onScanned?: (serial: string) => void;
  /** Several lines were pasted, which a field of one line would run together. */
  readonly onSeveral?: (text: string) => void;
}

/** A serial wherever one is asked: typed, sent by a hand scanner that types, or read by the camera. */
export function SerialField({ onSerial, onScanned, onSeveral, expects = [], ...input }: Props): ReactNode {
  return (
    <div>
      <Field
        autoComplete="off"
        autoCapitalize="characters"
        spellCheck={false}
        data-scan
        {...input}
        className="field font-mono text-lg"
        onPaste={(event) => {
          const pasted = event.clipboardData.getData('text');
          if (!onSeveral || !/[\r\n\t]/.test(pasted)) return;
          event.preventDefault();
          onSeveral(pasted);
        }}
        onChange={(event) => onSerial(event.target.value)}
      />
      <CameraButton
        words="Scan with the camera"
        expects={expects}
        onSerial={(serial) => {
          onSerial(serial);
          onScanned?.(serial);
        }}
      />
    </div>
  );
}
