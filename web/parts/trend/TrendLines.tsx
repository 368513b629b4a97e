'use client';
import { format } from 'date-fns';
import type { ReactNode } from 'react';
import { CartesianGrid, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { Trend } from '~/core/drive/trend';

/** The drawn part of a trend: its own line over those of the others. */
export function TrendLines({ own, mates, unit }: Pick<Trend, 'own' | 'mates'> & { readonly unit: string }): ReactNode {
  const all = [...mates.map(({ points }) => points), own];
  const days = [...new Set(all.flatMap((points) => points.map(({ day }) => day)))].sort();
  const at = all.map((points) => new Map(points.map(({ day, last }) => [day, last])));
  const data = days.map((day) => ({
    day: Date.parse(day),
    ...Object.fromEntries(at.flatMap((of, i) => (of.has(day) ? [[`v${String(i)}`, of.get(day)]] : []))),
  }));
  const mine = `v${String(all.length - 1)}`;
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart accessibilityLayer={false} data={data} margin={{ top: 8, right: 8, bottom: 0, left: 0 }}>
        <CartesianGrid stroke="var(--line)" vertical={false} />
        <XAxis
          dataKey="day"
          type="number"
          scale="time"
          domain={['dataMin', 'dataMax']}
          tickFormatter={(day: number) => format(day, 'MMM yy')}
          minTickGap={40}
          stroke="var(--muted)"
          tick={{ fontSize: 12, fill: 'var(--muted)' }}
          tickLine={false}
        />
        <YAxis
          domain={[0, 'auto']}
          tickCount={4}
          allowDecimals={false}
          width={48}
          stroke="var(--muted)"
          tick={{ fontSize: 12, fill: 'var(--muted)' }}
          tickLine={false}
          axisLine={false}
        />
        <Tooltip
          isAnimationActive={false}
          formatter={(value, name) => [`${String(value)} ${unit}`, name === mine ? 'this drive ' : 'of its lot ']}
          labelFormatter={(day) => format(Number(day), 'yyyy-MM-dd')}
          separator=""
          contentStyle={{
            background: 'var(--surface)',
            border: '1px solid var(--line)',
            borderRadius: 2,
            padding: '4px 8px',
            color: 'var(--ink)',
          }}
        />
        {mates.map(({ serial }, i) => (
          <Line
            key={serial}
            dataKey={`v${String(i)}`}
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
          dataKey={mine}
          type="linear"
          stroke="var(--ink)"
          strokeWidth={2}
          dot={false}
          connectNulls
          isAnimationActive={false}
        />
      </LineChart>
    </ResponsiveContainer>
  );
}
