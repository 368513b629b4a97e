import Link from '~/web/parts/frame/Link';
import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import type { ReactNode } from 'react';
import { purposeOfEntry } from '~/service/access/entry';
import { viewerOf } from '~/service/access/viewer';
import { Door } from '~/web/parts/entry/Door';
import { EntryForm } from '~/web/parts/entry/EntryForm';
import { app } from '~/web/server/app';

export const metadata = { title: 'Enter' };

const TITLE = {
  enter: 'Entering the shelf',
  join: 'Choose your password',
  'first-owner': 'A shelf of your own',
} as const;
const ASKS = { enter: 'nothing', join: 'password', 'first-owner': 'owner' } as const;

export default async function EnterPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ key?: string | string[] }>;
}): Promise<ReactNode> {
  const { key: given } = await searchParams;
  const key = typeof given === 'string' ? given : '';
  const purpose = await purposeOfEntry(app().auth, key);
  if (purpose === null) {
    if (await viewerOf(app(), new Headers(await headers()))) redirect('/');
    return (
      <Door title="This link is used up">
        <p>
          It was used already, or is too old. Start Patient Shelf again for a new one, or ask the owner of this shelf.
        </p>
        <p className="mt-3">
          <Link href="/sign-in" className="font-semibold text-action underline">
            Sign in with a password
          </Link>
        </p>
      </Door>
    );
  }
  return (
    <Door title={TITLE[purpose.kind]}>
      {purpose.kind === 'first-owner' && (
        <p className="mb-4 text-muted">
          This is the first start. Make the owner’s account: owners add other people and decide what they may do.
        </p>
      )}
      <EntryForm entryKey={key} asks={ASKS[purpose.kind]} />
    </Door>
  );
}
