import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import type { NeedForHands } from '~/core/upkeep/need';
import { MARKS, wayOf } from '~/web/parts/shelf/NeedsHands';

/** What needs hands at this unit, in a few lines. */
export function UnitNeeds({ needs }: { readonly needs: readonly NeedForHands[] }): ReactNode {
  if (needs.length === 0) return null;
  // The colour of the margin: grave once it is thinner than its layout, ochre where there is a sign to watch.
  const isGrave = needs.some(({ code }) => MARKS[code] !== undefined);
  return (
    <ul
      aria-label="Needs hands"
      className={`border-l-4 px-4 py-2 ${isGrave ? 'border-thinned bg-thinned-ground' : 'border-watch bg-watch-ground'}`}
    >
      {needs.map((need) => {
        const { href, words } = wayOf(need);
        const isHere = /^\/units\/[^/]+$/.test(href);
        return (
          <li key={need.code + need.title} className="py-0.5">
            <strong>{sentence(need.title.replace(/^.*? · /, ''))}.</strong> {need.reason}{' '}
            {!isHere && (
              <Link href={href} scroll={false} className="text-action underline">
                {words}
              </Link>
            )}
          </li>
        );
      })}
    </ul>
  );
}

function sentence(words: string): string {
  return `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}`;
}
