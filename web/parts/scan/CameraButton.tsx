'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { useReady } from '~/web/parts/form/useReady';

/** Comes with its reader when it is opened, and not before. */
const ScanDialog = dynamic(() => import('./ScanDialog').then((part) => part.ScanDialog), { ssr: false });

interface Props {
  readonly words: string;
  /** Serials that are meant, as far as that is known. */
  readonly expects?: readonly string[];
  readonly onSerial: (serial: string) => void;
}

/** Opens the camera for a serial; not there where a browser has none. */
export function CameraButton({ words, expects = [], onSerial }: Props): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  const hasCamera = useReady() && 'mediaDevices' in navigator;
  if (!hasCamera) return null;
  return (
    <>
      <Button className="min-h-11 shrink-0" onClick={() => setIsOpen(true)}>
        {words}
      </Button>
      {isOpen && (
        <ScanDialog
          expects={expects}
          onClose={() => setIsOpen(false)}
          onSerial={(serial) => {
            setIsOpen(false);
            onSerial(serial);
          }}
        />
      )}
    </>
  );
}
