import type { ReactNode } from 'react';
import { Notice } from '~/web/parts/form/Notice';
import { Tick } from '~/web/parts/form/Tick';
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
      <Tick words="It is all copied elsewhere, and I have opened the copy" isOn={isProven} onChange={onProven} />
    </Notice>
  );
}
