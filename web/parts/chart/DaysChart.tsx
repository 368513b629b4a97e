'use client';
import type { ReactNode } from 'react';
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';

interface Props {
  readonly label: string;
  /** Day and value, oldest first. */
  readonly points: readonly { readonly day: string; readonly value: number }[];
  readonly unit: string;
  readonly line?: { readonly at: number; readonly words: string };
  readonly most?: number;
}

/** Readings over time as an ink line, with its line to plan to and its last value written beside it. */
export function DaysChart({ label, points, unit, line, most }: Props): ReactNode {
  const last = points.at(-1);
  if (!last || points.length < 2) return null;
  const data = points.map(({ day, value }) => ({ day: Date.parse(day), value }));
  const date = (at: number): string => new Intl.DateTimeFormat('en', { month: 'short', year: '2-digit' }).format(at);
  return (
    <figure aria-label={label} className="mt-2">
      <figcaption className="flex justify-between text-sm text-muted">
        <span>{label}</span>
        <span>
          now {String(last.value)} {unit}
        </span>
      </figcaption>
      <div className="h-[130px]" aria-hidden>
        <ResponsiveContainer width="100%" height="100%">
          <LineChart accessibilityLayer={false} data={data} margin={{ top: 8, right: 8, bottom: 0, left: 0 }}>
            <CartesianGrid stroke="var(--line)" vertical={false} />
            <XAxis
              dataKey="day"
              type="number"
              scale="time"
              domain={['dataMin', 'dataMax']}
              tickFormatter={date}
              minTickGap={40}
              stroke="var(--muted)"
              tick={{ fontSize: 12, fill: 'var(--muted)' }}
              tickLine={false}
            />
            <YAxis
              domain={[0, most ?? 'auto']}
              {...(most === 100 ? { ticks: [0, 25, 50, 75, 100] } : { tickCount: 4 })}
              allowDecimals={false}
              width={34}
              stroke="var(--muted)"
              tick={{ fontSize: 12, fill: 'var(--muted)' }}
              tickLine={false}
              axisLine={false}
            />
            {line && (
              <ReferenceLine
                y={line.at}
                stroke="var(--watch)"
                strokeDasharray="4 3"
                label={{ value: line.words, position: 'insideTopLeft', fontSize: 12, fill: 'var(--watch)' }}
              />
            )}
            <Tooltip
              isAnimationActive={false}
              formatter={(value) => [`${String(value)} ${unit}`, '']}
              labelFormatter={(at) => new Date(Number(at)).toISOString().slice(0, 10)}
              separator=""
              contentStyle={{ background: 'var(--surface)', border: '1px solid var(--line)', borderRadius: 2, padding: '4px 8px', color: 'var(--ink)' }}
            />
            <Line dataKey="value" type="linear" stroke="var(--ink)" strokeWidth={1.5} dot={false} isAnimationActive={false} />
          </LineChart>
        </ResponsiveContainer>
      </div>
      <table className="sr-only">
        <caption>{label}</caption>
        <tbody>
          {points
            .filter((_, i) => i % Math.ceil(points.length / 12) === 0 || i === points.length - 1)
            .map(({ day, value }) => (
              <tr key={day}>
                <th scope="row">{day}</th>
                <td>
                  {value} {unit}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </figure>
  );
}
