import type { ReactNode } from 'react';
import { Notice } from '~/web/parts/form/Notice';
import type { Tried } from './usePlanTried';

interface Props {
  readonly tried: Tried;
  readonly isProven: boolean;
  readonly onProven: (isProven: boolean) => void;
}

/** What a plan is refused for that would rest on a sick drive, and the word that lets it begin all the same: a proven copy. */
export function CopyProven({ tried, isProven, onProven }: Props): ReactNode {
  const rests = tried.kind === 'refused' && tried.code === 'rests-on-sick';
  if (!rests && !isProven) return null;
  return (
    <Notice grave={rests} title={rests ? 'Everything would rest on a sick drive' : undefined}>
      {rests && <p>{tried.sentence}</p>}
      <label className="mt-2 flex min-h-9 items-center gap-3 max-sm:min-h-11">
        <input type="checkbox" checked={isProven} onChange={(event) => onProven(event.target.checked)} />
        It is all copied elsewhere, and I have opened the copy
      </label>
    </Notice>
  );
}
