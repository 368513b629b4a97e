'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import type { AnswerOf } from '~/web/parts/form/api';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { METRIC_WORDS } from './metricWords';

const TrendLines = dynamic(() => import('./TrendLines').then((part) => part.TrendLines), {
  ssr: false,
  loading: () => <div className="h-[180px]" aria-hidden />,
});

type Shown = AnswerOf<'GET /drives/{serial}/trends'>['trends'];

const TB = 1e12;

/** Points counted in so much. */
function counted(points: Shown[number]['own'], of: number): Shown[number]['own'] {
  return of === 1 ? points : points.map((point) => ({ ...point, last: Math.round((point.last / of) * 100) / 100 }));
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
                <TrendLines
                  own={counted(own, of)}
                  mates={mates.map(({ serial: mate, points }) => ({ serial: mate, points: counted(points, of) }))}
                  unit={unit}
                />
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
