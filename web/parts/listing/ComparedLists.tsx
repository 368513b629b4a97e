'use client';
import type { Remote } from 'comlink';
import type { ReactNode } from 'react';
import type { ShortComparison } from '~/core/listing/shortComparison';
import { formatBytes } from '~/core/quantity/formatBytes';
import { formatCount } from '~/core/quantity/formatCount';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { tell } from '~/web/parts/tell/tell';
import type { ListingComparer } from './listingWorker';

interface Props {
  readonly seen: ShortComparison;
  readonly comparer: Remote<ListingComparer> | null;
}

const KINDS = [
  ['missing', 'Missing at the newer end'],
  ['different', 'Different'],
  ['moved', 'In another place'],
  ['extra', 'Only at the newer end'],
] as const;

/** What two lists come to: a sentence, the totals of every share, and the files themselves. */
export function ComparedLists({ seen, comparer }: Props): ReactNode {
  const { counts, first, shares, words, leftOut, twice, problems } = seen;
  const isSame = counts.missing + counts.different + counts.moved === 0 && seen.same > 0;
  // Names say nothing of what is in the files.
  const isOfNames = isSame && seen.sameBy.path === seen.same;
  const bad = problems.left.problemCount + problems.right.problemCount;
  return (
    <div
      className="grid grid-cols-[minmax(0,1fr)] gap-4"
      data-compared={isOfNames ? 'names' : isSame ? 'same' : 'differs'}
    >
      <Notice
        grave={!isSame}
        title={
          isOfNames
            ? 'The same names at both ends; what is in the files was not compared'
            : isSame
              ? 'Both ends are the same'
              : 'The two ends differ'
        }
      >
        <p>{words}</p>
        <p className="mt-1 text-sm">
          {formatCount(leftOut)} left out
          {twice > 0 && `; ${formatCount(twice)} paths stand in a list more than once`}
          {bad > 0 &&
            `; ${formatCount(bad)} lines are no file (line ${[...problems.left.problems, ...problems.right.problems]
              .slice(0, 3)
              .map(({ line, reason }) => `${String(line)}: ${reason}`)
              .join(', ')})`}
          .
        </p>
      </Notice>
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Totals by share">
        <table className="w-full min-w-[560px] text-right">
          <thead>
            <tr className="border-b border-line text-sm text-muted">
              <th className="py-1 text-left font-normal">Share</th>
              <th className="font-normal">Files, old end</th>
              <th className="font-normal">Files, newer end</th>
              <th className="font-normal">Size, old end</th>
              <th className="font-normal">Size, newer end</th>
              <th className="font-normal">Missing</th>
              <th className="font-normal">Different</th>
              <th className="font-normal">Extra</th>
            </tr>
          </thead>
          <tbody>
            {shares.slice(0, MOST_SHARES).map((one) => (
              <tr key={one.share} className="border-b border-line">
                <td className="py-1 text-left font-semibold">{one.share === '' ? 'no folder' : one.share}</td>
                <td>{formatCount(one.left.files)}</td>
                <td>{formatCount(one.right.files)}</td>
                <td>{formatBytes(one.left.bytes)}</td>
                <td>{formatBytes(one.right.bytes)}</td>
                <td>{formatCount(one.missing)}</td>
                <td>{formatCount(one.different)}</td>
                <td>{formatCount(one.extra)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {KINDS.filter(([kind]) => counts[kind] > 0).map(([kind, title]) => (
        <section key={kind} aria-label={title}>
          <h2 className="font-semibold">
            {title}: {formatCount(counts[kind])}
          </h2>
          <ul className="max-h-64 overflow-y-auto border border-line bg-surface p-2 font-mono text-sm" tabIndex={0}>
            {kind === 'moved'
              ? first.moved.map(({ from, to }) => (
                  <li key={from} className="break-all">
                    {from} → {to}
                  </li>
                ))
              : kind === 'different'
                ? first.different.map(({ path, by, left, right }) => (
                    <li key={path} className="break-all">
                      {path} (
                      {by === 'size' ? `${String(left.size ?? 0)} and ${String(right.size ?? 0)} bytes` : 'checksum'})
                    </li>
                  ))
                : first[kind].map(({ path }) => (
                    <li key={path} className="break-all">
                      {path}
                    </li>
                  ))}
            {counts[kind] > first[kind].length && (
              <li className="text-muted">and {formatCount(counts[kind] - first[kind].length)} more, in the sheet</li>
            )}
          </ul>
        </section>
      ))}
      {comparer && (
        <div className="no-print flex flex-wrap gap-2">
          {!isSame && (
            <Button onClick={() => void comparer.sheet().then((text) => keep('differences.csv', text))}>
              Keep every difference as a sheet
            </Button>
          )}
          {([0, 1] as const).map((side) => (
            <Button
              key={side}
              onClick={() =>
                void comparer
                  .manifests(side)
                  .then((all) =>
                    all.length === 0
                      ? tell('That list has no checksums: a manifest is made of them.')
                      : all.forEach(({ name, text }) => keep(name, text)),
                  )
              }
            >
              Write the manifest of the {side === 0 ? 'old' : 'newer'} end
            </Button>
          ))}
        </div>
      )}
    </div>
  );
}

/** More shares than this are in the sheet. */
const MOST_SHARES = 60;

function keep(name: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type: 'text/plain' }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  URL.revokeObjectURL(address);
}
