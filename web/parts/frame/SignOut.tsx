'use client';
import type { ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { send } from '~/web/parts/form/send';
import { forgetAllHalfFilled } from '~/web/parts/form/sheet/halfFilled';

export function SignOut(): ReactNode {
  const signOut = async (): Promise<void> => {
    await send('POST', '/api/auth/sign-out', {});
    forgetAllHalfFilled();
    // What is kept on this device for a day goes with whoever it belongs to.
    (await navigator.serviceWorker?.getRegistration())?.active?.postMessage({ kind: 'forget' });
    window.location.assign('/sign-in');
  };
  return (
    <Button className="whitespace-nowrap" onClick={() => void signOut()}>
      Sign out
    </Button>
  );
}
