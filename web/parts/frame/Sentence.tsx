import { Fragment, type ReactNode } from 'react';

/** Words with hyphens and a digit in them: serials, and days. */
const IN_ONE_PIECE = /([\p{L}\p{N}]+(?:-[\p{L}\p{N}]+)+)/u;

/** What is longer than a label is wide has to be parted somewhere. */
const LONGEST = 24;

/** A sentence in which no serial and no day is parted at a line's end: it is held against a label. */
export function Sentence({ of }: { readonly of: string }): ReactNode {
  return of.split(IN_ONE_PIECE).map((piece, i) =>
    i % 2 === 1 && /\d/.test(piece) && piece.length <= LONGEST ? (
      <span key={i} className="whitespace-nowrap">
        {piece}
      </span>
    ) : (
      <Fragment key={i}>{piece}</Fragment>
    ),
  );
}
