import type { ReactNode } from 'react';
import { ButtonLink } from '~/web/parts/form/Button';

export function NotForYou({ needs }: { readonly needs: string }): ReactNode {
  return (
    <div className="p-6">
      <h1 className="text-xl">This page is for the {needs}</h1>
      <p className="mt-1 mb-4 text-muted">Ask the owner of this shelf to change your role if you need it.</p>
      <ButtonLink href="/">Back to the shelf</ButtonLink>
    </div>
  );
}
