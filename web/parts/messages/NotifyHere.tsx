'use client';
import { useSyncExternalStore, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { tell, tellFault } from '~/web/parts/tell/tell';
import { mayNotify, NOTIFIES, setNotifies, watchNotifies } from './notifies';

/** Whether this browser shows a notification of what begins, for as long as a page of the shelf is open in it. */
export function NotifyHere(): ReactNode {
  const isOn = useSyncExternalStore(
    watchNotifies,
    () => localStorage.getItem(NOTIFIES) === 'on',
    () => false,
  );
  const turn = async (): Promise<void> => {
    if (isOn) return setNotifies(false);
    if (!mayNotify()) return tellFault('This browser shows no notifications on this page: it wants https.');
    if ((await Notification.requestPermission()) !== 'granted')
      return tellFault('This browser was told not to show notifications of the shelf.');
    setNotifies(true);
    tell('This browser tells you, as long as a page of the shelf is open.');
  };
  return (
    <section aria-label="In this browser" className="grid gap-2">
      <h2 className="text-lg">In this browser</h2>
      <p className="max-w-[640px] text-muted">
        As long as a page of the shelf is open, even behind others, it can show a notification of what begins or gets
        worse.
      </p>
      <div>
        <Button aria-pressed={isOn} onClick={() => void turn()}>
          {isOn ? 'Notify me here no longer' : 'Notify me here'}
        </Button>
      </div>
    </section>
  );
}
