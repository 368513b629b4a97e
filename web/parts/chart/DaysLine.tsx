'use client';
import { format } from 'date-fns';
import type { ReactNode } from 'react';
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { DaysProps } from './days';

/** The drawn part of a chart over days. */
export function DaysLine({ points, unit, line, most }: Omit<DaysProps, 'label'>): ReactNode {
  const data = points.map(({ day, value }) => ({ day: Date.parse(day), value }));
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
          formatter={(value) => [`${String(value)} ${unit}`, '']}
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
        <Line
          dataKey="value"
          type="linear"
          stroke="var(--ink)"
          strokeWidth={1.5}
          dot={false}
          isAnimationActive={false}
        />
      </LineChart>
    </ResponsiveContainer>
  );
}
