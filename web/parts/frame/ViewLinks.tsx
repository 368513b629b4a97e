import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';

export interface ViewLink {
  readonly href: string;
  readonly words: string;
  readonly isHere: boolean;
}

/** Views of one place side by side; each has its own address. */
export function ViewLinks({
  label,
  links,
}: {
  readonly label: string;
  readonly links: readonly ViewLink[];
}): ReactNode {
  return (
    <nav aria-label={label} className="flex flex-wrap gap-x-1 border-b border-line">
      {links.map(({ href, words, isHere }) => (
        <Link
          key={href}
          href={href}
          scroll={false}
          aria-current={isHere ? 'page' : undefined}
          className={`-mb-px border-b-2 px-3 py-1.5 max-sm:py-3 ${isHere ? 'border-action font-semibold text-ink' : 'border-transparent text-muted hover:text-ink'}`}
        >
          {words}
        </Link>
      ))}
    </nav>
  );
}
