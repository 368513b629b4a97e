import type { ReactNode } from 'react';
import { formatPercent } from '~/core/quantity/formatPercent';
import type { ThoughtRate } from '~/core/risk/thoughtRate';

/** "1 % to 3.2 % (the usual range, sharpened by what failed here)". */
export function RateWords({ rate: { failuresPerYear, isOwn } }: { readonly rate: ThoughtRate }): ReactNode {
  const [low, high] = failuresPerYear.map((share) => formatPercent(share));
  return (
    <>
      <span className="whitespace-nowrap">{low}</span> to <span className="whitespace-nowrap">{high}</span> (
      {isOwn ? 'the usual range, sharpened by what failed here' : 'data sheets to field studies of 2007'})
    </>
  );
}
