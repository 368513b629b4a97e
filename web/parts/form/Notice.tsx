import type { ReactNode } from 'react';
import { Sentence } from '~/web/parts/frame/Sentence';

/** Something to read before going on; announced when it appears. */
export function Notice({
  grave = false,
  title,
  children,
}: {
  readonly grave?: boolean;
  readonly title?: string;
  readonly children: ReactNode;
}): ReactNode {
  return (
    <div
      role={grave ? 'alert' : 'status'}
      className={`rounded-[2px] border-l-4 px-4 py-3 ${grave ? 'border-thinned bg-thinned-ground' : 'border-watch bg-watch-ground'}`}
    >
      {title !== undefined && (
        <p className="font-semibold">
          <Sentence of={title} />
        </p>
      )}
      {children}
    </div>
  );
}
