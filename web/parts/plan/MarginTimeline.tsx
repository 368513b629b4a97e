import type { ReactNode } from 'react';
import type { PlanRisk } from '~/core/plan/engine/timeline';
import { hoursWords } from '~/core/quantity/hoursWords';
import { marginWords } from '~/core/unit/standingWords';
import { chanceWords, riskWords, unbroken } from '~/web/parts/bench/words';

const WIDTH = 300;
const TOP = 30;
const STEP = 34;
const LEFT = 4;

/**
 * Margin against time as a step line. Times are drawn by their square root of duration, so that ten minutes beside ten
 * hours can still be seen; the hours are written out.
 */
export function MarginTimeline({
  risk,
  label,
  here = true,
}: {
  readonly risk: PlanRisk;
  readonly label: string;
  readonly here?: boolean;
}): ReactNode {
  const { stretches } = risk;
  const most = Math.max(1, ...stretches.map(({ margin }) => margin));
  const lost = TOP + (most + 1) * STEP;
  const height = lost + 34;
  const widths = stretches.map(({ from, to }) => Math.sqrt(Math.max(60_000, Date.parse(to) - Date.parse(from))));
  const sum = widths.reduce((a, b) => a + b, 0);
  const edges = widths.reduce<number[]>(
    (all, width) => [...all, (all.at(-1) as number) + (width / sum) * (WIDTH - LEFT - 4)],
    [LEFT],
  );
  const drawn = stretches.map((stretch, i) => ({
    ...stretch,
    x1: edges[i] as number,
    x2: edges[i + 1] as number,
    y: TOP + (most - Math.max(-1, stretch.margin)) * STEP,
  }));
  const path = drawn
    .map(({ x1, x2, y }, i) => `${i === 0 ? `M${String(x1)} ${String(y)}` : `V${String(y)}`} H${String(x2)}`)
    .join(' ');
  const words = drawn
    .map(
      ({ margin, from, to }) =>
        `${marginWords(margin)} for ${hoursWords((Date.parse(to) - Date.parse(from)) / 3_600_000)}`,
    )
    .join(', then ');
  return (
    <svg
      viewBox={`0 0 ${String(WIDTH)} ${String(height)}`}
      className="mt-2 w-full"
      role="img"
      aria-label={`${label}: ${words}`}
    >
      {Array.from({ length: most + 1 }, (_, m) => (
        <line
          key={m}
          x1={LEFT}
          x2={WIDTH}
          y1={TOP + (most - m) * STEP}
          y2={TOP + (most - m) * STEP}
          stroke="var(--line)"
        />
      ))}
      <line x1={LEFT} x2={WIDTH} y1={lost} y2={lost} stroke="var(--line)" strokeDasharray="3 3" />
      {drawn
        .filter(({ margin }) => margin === 0)
        .map(({ x1, x2, y, from }) => (
          <rect key={from} x={x1} y={y} width={Math.max(1, x2 - x1)} height={lost - y} fill="var(--thinned-ground)" />
        ))}
      <text x={WIDTH} y={lost - 4} fontSize="12" fill="var(--muted)" textAnchor="end">
        lost
      </text>
      <path d={path} fill="none" stroke="var(--ink)" strokeWidth="2" />
      {drawn.map(({ margin, x1, x2, y, from, to }, i) =>
        (x2 - x1 > 62 || i === 0) && (i === 0 || i < drawn.length - 1) ? (
          <text
            key={from}
            x={i === 0 ? x1 : (x1 + x2) / 2}
            y={y - 6}
            fontSize="12"
            fill="var(--ink)"
            textAnchor={i === 0 ? 'start' : 'middle'}
          >
            {x2 - x1 > 150
              ? `${marginWords(margin)}, ${hoursWords((Date.parse(to) - Date.parse(from)) / 3_600_000)}`
              : x2 - x1 > 80
                ? marginWords(margin)
                : ''}
          </text>
        ) : null,
      )}
      {drawn.length > 1 && (
        <text x={WIDTH} y={(drawn.at(-1)?.y ?? 0) - 6} fontSize="12" fill="var(--ink)" textAnchor="end">
          {marginWords(stretches.at(-1)?.margin ?? 0)}
        </text>
      )}
      {here && (
        <>
          <line x1={LEFT + 1} x2={LEFT + 1} y1={TOP - 12} y2={lost} stroke="var(--action)" strokeDasharray="4 3" />
          <text x={LEFT} y={height - 14} fontSize="12" fill="var(--action)" fontWeight="600">
            you are here
          </text>
        </>
      )}
      <text x={WIDTH} y={height - 14} fontSize="12" fill="var(--muted)" textAnchor="end">
        {hoursWords((Date.parse(stretches.at(-1)?.to ?? '') - Date.parse(stretches[0]?.from ?? '')) / 3_600_000)} on
      </text>
    </svg>
  );
}

/** The chances of a plan, stretch by stretch and over all of it. */
export function RiskFigures({ risk }: { readonly risk: PlanRisk }): ReactNode {
  const { stretches, lossBetween, unreadable, thinHours } = risk;
  const lasting = stretches.filter(({ from, to }) => to > from);
  const unreadableWords = (of: { readonly usual: number; readonly bound: number } | null): string =>
    of === null || of.bound === 0
      ? '—'
      : of.usual >= 0.001
        ? `${chanceWords(of.usual).replace(' %', '')}–${chanceWords(of.bound)}`
        : `${chanceWords(of.usual)} – ${chanceWords(of.bound)}`;
  return (
    <>
      <p className="mt-2">
        Thinner than at its best: <strong>{thinHours === 0 ? 'never' : hoursWords(thinHours)}</strong>
      </p>
      <table className="mt-1 w-full text-sm">
        <thead className="text-left text-muted">
          <tr>
            <th scope="col" className="py-0.5 font-normal">
              While it
            </th>
            <th scope="col" className="py-0.5 text-right font-normal">
              a failure loses it
            </th>
            <th scope="col" className="py-0.5 pl-2 text-right font-normal">
              unreadable sector
            </th>
          </tr>
        </thead>
        <tbody>
          {lasting.map((stretch) => (
            <tr key={stretch.from} className="border-t border-line align-top">
              <th scope="row" className="py-0.5 text-left font-normal">
                {marginWords(stretch.margin)},{' '}
                {hoursWords((Date.parse(stretch.to) - Date.parse(stretch.from)) / 3_600_000)}
              </th>
              <td className="py-0.5 text-right">{unbroken(riskWords(stretch.lossBetween))}</td>
              <td className="py-0.5 pl-2 text-right whitespace-nowrap">{unreadableWords(stretch.unreadable)}</td>
            </tr>
          ))}
          {lasting.length > 1 && (
            <tr className="border-t border-line align-top font-semibold">
              <th scope="row" className="py-0.5 text-left">
                in all
              </th>
              <td className="py-0.5 text-right">{unbroken(riskWords(lossBetween))}</td>
              <td className="py-0.5 pl-2 text-right whitespace-nowrap">{unreadableWords(unreadable)}</td>
            </tr>
          )}
        </tbody>
      </table>
    </>
  );
}
