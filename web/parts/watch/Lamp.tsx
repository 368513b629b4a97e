'use client';
import type { ReactNode } from 'react';
import type { ShownWatch } from '~/service/watch/watchOperations';
import { Button } from '~/web/parts/form/Button';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';

interface Props {
  readonly id: string;
  readonly bay: string;
  /** The bay as the unit counts it. */
  readonly where: string;
  readonly lights: ShownWatch['lights'];
  readonly maySwitch: boolean;
  readonly onDone: () => void;
}

/** The locate light of a bay, where the unit has one that can be switched from here; nothing where it has none. */
export function Lamp({ id, bay, where, lights, maySwitch, onDone }: Props): ReactNode {
  const { busy, run } = useSending();
  const light = lights.find((one) => one.bay === bay);
  if (!light) return null;
  if (!maySwitch) return <>{light.isOn ? 'on' : 'off'}</>;
  return (
    <Button
      disabled={busy}
      aria-pressed={light.isOn}
      aria-label={`${light.isOn ? 'Light off' : 'Light on'}, ${where}`}
      className={light.isOn ? 'border-action bg-chosen' : ''}
      onClick={() =>
        void run('POST /units/{id}/watch/lights', { id, body: { bay, on: !light.isOn } }).then((answer) => {
          tell(
            answer === null
              ? `The light at ${where} could not be switched.`
              : light.isOn
                ? `The light at ${where} is off.`
                : `The light at ${where} is on; it goes off by itself in a quarter of an hour.`,
          );
          onDone();
        })
      }
    >
      {light.isOn ? 'Light off' : 'Light on'}
    </Button>
  );
}
