'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import type { AnswerOf } from '~/web/parts/form/api';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { METRIC_WORDS } from './metricWords';

const DaysLine = dynamic(() => import('~/web/parts/chart/DaysLine').then((part) => part.DaysLine), {
  ssr: false,
  loading: () => <div className="h-[180px]" aria-hidden />,
});

type Shown = AnswerOf<'GET /drives/{serial}/trends'>['trends'];

const TB = 1e12;

/** The last of each stretch, counted in so much. */
function lineOf(points: Shown[number]['own'], of: number): { readonly day: string; readonly value: number }[] {
  return points.map(({ day, last }) => ({ day, value: Math.round((last / of) * 100) / 100 }));
}

/** What was measured of a drive over all its years, beside the others of its lot; fetched when it is opened. */
export function Trends({ serial }: { readonly serial: string }): ReactNode {
  const { busy, fault, run } = useSending();
  const [trends, setTrends] = useState<Shown | null>(null);
  const open = async (): Promise<void> => {
    const answer = await run('GET /drives/{serial}/trends', { serial });
    if (answer) setTrends(answer.trends);
  };
  return (
    <section aria-label="Over the years" className="grid gap-3" data-trends={trends ? 'open' : 'shut'}>
      <h2 className="text-lg">Over the years</h2>
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {!trends && (
        <div className="no-print">
          <Button disabled={busy} onClick={() => void open()}>
            {busy ? 'Reading …' : 'Show it beside its lot'}
          </Button>
        </div>
      )}
      {trends?.length === 0 && <p className="text-muted">Nothing was measured of it yet.</p>}
      {trends?.map(({ metric, own, mates, words }) => {
        const [label, raw] = METRIC_WORDS[metric];
        const [unit, of] = raw === 'B' ? ['TB', TB] : [raw, 1];
        return (
          <figure key={metric} aria-label={`${label} over the years`} className="border border-line bg-surface p-3">
            <figcaption>
              <span className="font-semibold">{label}</span>
              {words !== '' && <span className="block text-sm">{words}</span>}
            </figcaption>
            {own.length < 2 ? (
              <p className="text-sm text-muted">Measured on one day so far.</p>
            ) : (
              <div className="h-[180px]" aria-hidden>
                <DaysLine points={lineOf(own, of)} unit={unit} beside={mates.map(({ points }) => lineOf(points, of))} />
              </div>
            )}
          </figure>
        );
      })}
      {trends?.some(({ mates }) => mates.length > 0) && (
        <p className="text-sm text-muted">Thick: this drive. Thin: the others of its lot.</p>
      )}
    </section>
  );
}
