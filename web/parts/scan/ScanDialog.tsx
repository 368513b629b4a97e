'use client';
import { useState, type ReactNode } from 'react';
import { whichSerial } from '~/core/drive/whichSerial';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Notice } from '~/web/parts/form/Notice';
import { Serial } from '~/web/parts/unit/Serial';
import { useCamera } from './useCamera';

interface Props {
  /** Serials that are meant, as far as that is known: one of them is taken without asking. */
  readonly expects: readonly string[];
  readonly onSerial: (serial: string) => void;
  readonly onClose: () => void;
}

/** The camera over the page, held at the label of a drive. */
export function ScanDialog({ expects, onSerial, onClose }: Props): ReactNode {
  const [several, setSeveral] = useState<readonly string[]>([]);
  const { video, fault, isOn } = useCamera((serials) => {
    const meant =
      serials.find((serial) => whichSerial(serial, expects) !== null) ??
      (serials.length === 1 ? serials[0] : undefined);
    if (meant !== undefined) onSerial(meant);
    else setSeveral(serials);
  });
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Hold the label before the camera">
      <div className="grid gap-3" data-scanning={isOn}>
        {fault === null ? (
          <video
            ref={video}
            muted
            playsInline
            className="max-h-[50vh] w-full bg-black object-contain"
            aria-label="What the camera sees"
          />
        ) : (
          <Notice grave>{fault}</Notice>
        )}
        {several.length > 0 ? (
          <div className="grid gap-2" role="group" aria-label="Which of these is the serial">
            <p>The label has several codes. Which is the serial, as it is printed?</p>
            {several.map((serial) => (
              <Button key={serial} className="min-h-11" onClick={() => onSerial(serial)}>
                <Serial of={serial} />
              </Button>
            ))}
          </div>
        ) : (
          fault === null && (
            <p className="text-muted">
              The bar code or the square code of its serial, flat and in good light. Nothing leaves this device.
            </p>
          )
        )}
      </div>
    </Dialog>
  );
}
