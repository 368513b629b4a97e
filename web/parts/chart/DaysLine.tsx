'use client';
import { format } from 'date-fns';
import type { ReactNode } from 'react';
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { DaysProps } from './days';

/** One row a day, with the value of each line on it. */
function rowsOf(lines: readonly DaysProps['points'][]): Record<string, number>[] {
  const rows = new Map<string, Record<string, number>>();
  for (const [i, points] of lines.entries())
    for (const { day, value } of points)
      rows.set(day, { ...(rows.get(day) ?? { day: Date.parse(day) }), [`line${String(i)}`]: value });
  return [...rows.values()].sort((a, b) => (a['day'] ?? 0) - (b['day'] ?? 0));
}

/** The drawn part of a chart over days. */
export function DaysLine({ points, unit, line, most, beside = [] }: Omit<DaysProps, 'label'>): ReactNode {
  const data = rowsOf([points, ...beside]);
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart accessibilityLayer={false} data={data} margin={{ top: 8, right: 8, bottom: 0, left: 0 }}>
        <CartesianGrid stroke="var(--line)" vertical={false} />
        <XAxis
          dataKey="day"
          type="number"
          scale="time"
          domain={['dataMin', 'dataMax']}
          tickFormatter={(at: number) => format(at, 'MMM yy')}
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
          formatter={(value, name) => [
            `${String(value)} ${unit}`,
            beside.length === 0 || name === 'line0' ? '' : 'beside: ',
          ]}
          labelFormatter={(at) => format(Number(at), 'yyyy-MM-dd')}
          separator=""
          contentStyle={{
            background: 'var(--surface)',
            border: '1px solid var(--line)',
            borderRadius: 2,
            padding: '4px 8px',
            color: 'var(--ink)',
          }}
        />
        {beside.map((_, i) => (
          <Line
            key={i}
            dataKey={`line${String(i + 1)}`}
            type="linear"
            stroke="var(--muted)"
            strokeOpacity={0.55}
            strokeWidth={1}
            dot={false}
            connectNulls
            isAnimationActive={false}
          />
        ))}
        <Line
          dataKey="line0"
          type="linear"
          stroke="var(--ink)"
          strokeWidth={beside.length === 0 ? 1.5 : 2}
          dot={false}
          connectNulls
          isAnimationActive={false}
        />
      </LineChart>
    </ResponsiveContainer>
  );
}
