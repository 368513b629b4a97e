import type { DriveLife } from './life';

/** That a drive had shown signs or failed when it last came out of a unit, and whether a test has found it well since. */
export interface Sickness {
  /** "showed signs when it came out on 2026-11-20: clicks". */
  readonly words: string;
  readonly isTestedWell: boolean;
}

/** What a drive's own ledger says of its health; `undefined` where nothing speaks against it. */
export function sicknessOf({ sick, tested }: Pick<DriveLife, 'sick' | 'tested'>): Sickness | undefined {
  if (tested?.result === 'sick' && (sick === null || tested.at > sick.at))
    return {
      words: `was tested on ${tested.at.slice(0, 10)} and found sick${noted(tested.note)}`,
      isTestedWell: false,
    };
  if (sick === null) return undefined;
  const what = sick.what === 'failed' ? 'had failed' : 'showed signs';
  return {
    words: `${what} when it came out on ${sick.at.slice(0, 10)}${noted(sick.note)}`,
    isTestedWell: tested?.result === 'well' && tested.at > sick.at,
  };
}

function noted(note: string | undefined): string {
  return note === undefined || note === '' ? '' : `: ${note}`;
}
