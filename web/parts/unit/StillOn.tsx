'use client';
import type { ReactNode } from 'react';
import type { HoldingDrive } from '~/service/drives/readDrives';
import Link from '~/web/parts/frame/Link';
import { Serial } from './Serial';

/** Drives that came out with data on them, each with where it is, and a way to say what becomes of it. */
export function StillOn({ holding }: { readonly holding: readonly HoldingDrive[] }): ReactNode {
  return (
    <ul data-still-on>
      {holding.map(({ serial, pool, where }) => (
        <li key={serial}>
          <Link href={`/drives/${encodeURIComponent(serial)}`} className="text-action underline">
            <Serial of={serial} />
          </Link>
          : {pool}, {where}
        </li>
      ))}
    </ul>
  );
}
