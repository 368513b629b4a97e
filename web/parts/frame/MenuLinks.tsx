import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';

export interface MenuLink {
  readonly href: string;
  readonly words: string;
  /** What it is for, in small below it. */
  readonly detail?: string;
}

/** A button that opens a short list of places to go; nothing where there is none. */
export function MenuLinks({
  words,
  links,
}: {
  readonly words: string;
  readonly links: readonly MenuLink[];
}): ReactNode {
  if (links.length === 0) return null;
  return (
    <details className="group relative" name="menu" data-menu={words}>
      <summary className="inline-flex min-h-9 cursor-pointer list-none items-center rounded-[2px] border border-line bg-surface px-3 py-1.5 font-semibold hover:bg-chosen max-sm:min-h-11 [&::-webkit-details-marker]:hidden">
        {words}
      </summary>
      <ul className="absolute left-0 z-20 mt-1 w-64 border max-sm:static max-sm:w-auto border-line bg-surface py-1">
        {links.map(({ href, words: to, detail }) => (
          <li key={href}>
            <Link href={href} className="block px-3 py-2 hover:bg-chosen">
              {to}
              {detail !== undefined && (
                <span className="block text-sm text-muted" aria-hidden>
                  {detail}
                </span>
              )}
            </Link>
          </li>
        ))}
      </ul>
    </details>
  );
}
