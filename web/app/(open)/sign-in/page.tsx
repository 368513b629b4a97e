import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import type { ReactNode } from 'react';
import { backTo } from '~/service/access/backTo';
import { viewerOf } from '~/service/access/viewer';
import { Door } from '~/web/parts/entry/Door';
import { SignInForm } from '~/web/parts/entry/SignInForm';
import { app } from '~/web/server/app';

export const metadata = { title: 'Sign in' };

export default async function SignInPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ from?: string | string[] }>;
}): Promise<ReactNode> {
  const back = backTo((await searchParams).from);
  if (await viewerOf(app(), new Headers(await headers()))) redirect(back);
  return (
    <Door title="Sign in">
      <SignInForm from={back} />
      <p className="mt-4 text-sm text-muted">
        No account yet? The owner of this shelf can add you and hand you a link. On a first start, the link for the
        owner’s own account is printed where Patient Shelf was started.
      </p>
    </Door>
  );
}
