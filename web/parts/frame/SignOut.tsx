'use client';
import type { ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { send } from '~/web/parts/form/send';

export function SignOut(): ReactNode {
  const signOut = async (): Promise<void> => {
    await send('POST', '/api/auth/sign-out', {});
    window.location.assign('/sign-in');
  };
  return (
    <Button className="whitespace-nowrap" onClick={() => void signOut()}>
      Sign out
    </Button>
  );
}
