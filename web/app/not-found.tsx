import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import { Door } from '~/web/parts/entry/Door';

export default function NotFound(): ReactNode {
  return (
    <Door title="There is nothing at this address">
      <p className="mb-3">The unit may have been entered under another name, or the address is not complete.</p>
      <Link href="/" className="font-semibold text-action underline">
        Back to the shelf
      </Link>
    </Door>
  );
}
