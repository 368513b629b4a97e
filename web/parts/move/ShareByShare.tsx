'use client';
import { useState, type ReactNode } from 'react';
import type { Media } from '~/core/drive/media';
import { FILE_BYTES } from '~/core/move/waysToMove';
import { hoursWords } from '~/core/quantity/hoursWords';
import { readShares } from '~/core/transfer/readShares';
import { sharesTime, type SharesTime } from '~/core/transfer/sharesTime';
import { oneDrive, overEthernet } from '~/core/transfer/transferTime';
import { isRefusal } from '~/core/value/refusal';
import { Area } from '~/web/parts/form/Field';
import { PickLine } from '~/web/parts/form/PickLine';
import { rowsOf } from '~/web/parts/form/rowsOf';

interface Props {
  /** What the drives of both are, as far as it is known. */
  readonly from: Media;
  readonly to: Media;
}

const LINKS = ['1', '2.5', '10', '25'] as const;
const STREAMS = ['2', '3', '4', '8'] as const;

const HOLDS: Readonly<Record<SharesTime['bottleneck'], string>> = {
  source: 'The old unit’s drives hold it up most',
  link: 'The network between them holds it up most',
  target: 'The newer unit’s drives hold it up most',
  files: 'The many files hold it up most, not their bytes',
  'largest-share': 'One share holds it up: it takes longer than the others beside it',
};

/** How long a copy takes share by share, one after the other and side by side. */
export function ShareByShare({ from, to }: Props): ReactNode {
  const [text, setText] = useState('');
  const [link, setLink] = useState<string>(LINKS[0]);
  const [streams, setStreams] = useState<string>(STREAMS[0]);
  const shares = readShares(text, rowsOf, FILE_BYTES.likely);
  const passages = [oneDrive('source', from), overEthernet(Number(link)), oneDrive('target', to)];
  const time =
    isRefusal(shares) || shares.length === 0 ? null : sharesTime(shares, passages, [from, to], Number(streams));
  return (
    <details data-share-by-share>
      <summary className="min-h-9 cursor-pointer font-semibold text-action max-sm:min-h-11">
        A copy, share by share…
      </summary>
      <div className="mt-2 grid max-w-[560px] gap-3">
        <Area
          label="Shares, a line each: name, size, number of files"
          value={text}
          rows={4}
          spellCheck={false}
          placeholder={'Maps, 1.2 TB, 40000\nAccounts, 80 GB, 900000'}
          hint={`Where the number of files is left out, one is taken to be of ${String(FILE_BYTES.likely / 1e6)} MB.`}
          fault={isRefusal(shares) ? shares.sentence : undefined}
          onChange={(event) => setText(event.target.value)}
        />
        <div className="grid grid-cols-2 gap-3">
          <PickLine
            label="Network"
            value={link}
            onValue={setLink}
            options={LINKS.map((of) => ({ value: of, words: `${of} Gbit/s` }))}
          />
          <PickLine
            label="Side by side"
            value={streams}
            onValue={setStreams}
            options={STREAMS.map((of) => ({ value: of, words: `${of} at a time` }))}
          />
        </div>
        <div aria-live="polite">{time && <Times of={time} />}</div>
      </div>
    </details>
  );
}

function Times({ of: { shares, inSequence, sideBySide, bottleneck } }: { readonly of: SharesTime }): ReactNode {
  const longest = Math.max(inSequence.likely, 1e-9);
  const ways = [
    { words: 'One after the other', span: inSequence },
    { words: `${String(sideBySide.streams)} at a time`, span: sideBySide },
  ];
  const won = inSequence.likely - sideBySide.likely;
  return (
    <div className="grid gap-2">
      {ways.map(({ words, span }) => (
        <div key={words}>
          <p>
            <strong>{words}</strong>: {hoursWords(span.low / 3600)} to {hoursWords(span.high / 3600)}, likely{' '}
            {hoursWords(span.likely / 3600)}
          </p>
          <div className="h-3 border border-line" aria-hidden>
            <div className="h-full bg-action" style={{ width: `${String((span.likely / longest) * 100)}%` }} />
          </div>
        </div>
      ))}
      <p>
        {HOLDS[bottleneck]}.{' '}
        {won < 0.05 * inSequence.likely
          ? 'Side by side wins next to nothing: one after the other, the most important first.'
          : `Side by side wins ${hoursWords(won / 3600)}.`}
      </p>
      {shares.length > 1 && (
        <ul className="list-disc pl-5 text-sm">
          {shares.map(({ name, seconds }, i) => (
            <li key={`${name} ${String(i)}`}>
              {name}: {hoursWords(seconds / 3600)} alone
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
