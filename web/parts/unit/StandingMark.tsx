import type { ReactNode } from 'react';
import type { Standing } from '~/core/unit/margin';

const COLOURS: Record<Standing, string> = {
  well: 'text-well',
  watch: 'text-watch',
  thinned: 'text-thinned',
  stopped: 'text-thinned',
  lost: 'text-ink',
  unguarded: 'text-muted',
  empty: 'text-muted',
};

/**
 * How a unit stands: a shape, a colour and words, never colour alone. Square: full margin. Triangle: a sign to watch.
 * Diamond: less margin than the layout gives; hollow: stopped, nothing proven lost. Cross on ink: lost. Dashed outline: unguarded by choice, or no pool.
 */
export function StandingMark({
  standing,
  children,
}: {
  readonly standing: Standing;
  readonly children?: ReactNode;
}): ReactNode {
  return (
    <span className={`inline-flex items-center gap-1.5 font-semibold ${COLOURS[standing]}`}>
      <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden className="shrink-0">
        {standing === 'well' && <rect x="1" y="1" width="12" height="12" fill="currentColor" />}
        {standing === 'watch' && <path d="M7 0.8 13.6 13H0.4Z" fill="currentColor" />}
        {standing === 'thinned' && <path d="M7 0 14 7 7 14 0 7Z" fill="currentColor" />}
        {standing === 'stopped' && (
          <path d="M7 1.4 12.6 7 7 12.6 1.4 7Z M4.5 7H9.5" fill="none" stroke="currentColor" strokeWidth="2" />
        )}
        {standing === 'lost' && (
          <>
            <rect width="14" height="14" fill="currentColor" />
            <path d="M3.5 3.5 10.5 10.5M10.5 3.5 3.5 10.5" stroke="var(--surface)" strokeWidth="2" />
          </>
        )}
        {(standing === 'unguarded' || standing === 'empty') && (
          <rect
            x="1"
            y="1"
            width="12"
            height="12"
            fill="none"
            stroke="currentColor"
            strokeWidth="1.5"
            strokeDasharray="3 2"
          />
        )}
      </svg>
      {children}
    </span>
  );
}
