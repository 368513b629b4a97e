import type { ReactNode } from 'react';
import { BeginPlan } from './BeginPlan';

interface Props {
  /** The unit the drives came out of. */
  readonly of: { readonly id: string; readonly version: number } | undefined;
  readonly mayRecord: boolean;
  /** What the page has of it is what is recorded. */
  readonly isReady: boolean;
}

/** The way back, at the place where it is needed: the plan that puts carried drives into the bays they had. */
export function CarryBack({ of, mayRecord, isReady }: Props): ReactNode {
  if (!of || !mayRecord) return null;
  return (
    <div className="mt-3">
      <BeginPlan
        id={of.id}
        version={of.version}
        job="carry-back"
        wish={{}}
        isReady={isReady}
        words="Carry the drives back: lead me"
      />
    </div>
  );
}
