'use client';
import { addMonths, format } from 'date-fns';
import type { ReactNode } from 'react';
import {
  Area,
  Bar,
  CartesianGrid,
  ComposedChart,
  LabelList,
  Line,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import type { MarginDip } from '~/core/growth/marginAhead';

interface Props {
  readonly history: readonly { readonly day: string; readonly usedBytes: number }[];
  readonly fan: readonly { readonly on: string; readonly usedBytes: readonly [number, number, number] }[];
  readonly shownBytes: number;
  readonly line: number;
  /** What there is after the steps of a month, as the unit's page counts it. */
  readonly steps: readonly { readonly month: number; readonly bytes: number; readonly cents: number }[];
  /** How many more may fail now, and in which months that changes. */
  readonly margin: { readonly full: number; readonly dips: readonly MarginDip[] };
  readonly today: string;
  readonly currency: string;
}

const TB = 1e12;
const MOST_YEARS = 5;
/** Years shown of what is behind: what comes is what the picture is for. */
const BEHIND_YEARS = 2;

/** Used as a band that widens, what may be used as steps. */
export function FanDrawn({ history, fan, shownBytes, line, steps, margin, today, currency }: Props): ReactNode {
  const now = Date.parse(today);
  const most = addMonths(now, 12 * MOST_YEARS).getTime();
  const least = addMonths(now, -12 * BEHIND_YEARS).getTime();
  const used = history
    .map(({ day, usedBytes }) => ({ at: Date.parse(day), used: usedBytes / TB }))
    .filter(({ at }) => at >= least);
  const ahead = fan
    .map(({ on, usedBytes: [low, likely, high] }) => ({
      at: Date.parse(on),
      span: [low / TB, high / TB] as const,
      likely: likely / TB,
    }))
    .filter(({ at }) => at <= most);
  const last = used.at(-1);
  const joined = last ? [{ at: last.at, span: [last.used, last.used] as const, likely: last.used }, ...ahead] : ahead;
  const end = Math.max(now, joined.at(-1)?.at ?? now, ...steps.map(({ month }) => addMonths(now, month + 6).getTime()));
  const room = [
    { at: used[0]?.at ?? now, room: (shownBytes * line) / TB },
    ...steps.map(({ month, bytes }) => ({ at: addMonths(now, month).getTime(), room: (bytes * line) / TB })),
  ];
  const held = [...room, { at: end, room: room.at(-1)?.room ?? 0 }];
  const from = used[0]?.at ?? now;
  return (
    <>
      <ResponsiveContainer width="100%" height={steps.length > 0 ? '60%' : '100%'}>
        <ComposedChart accessibilityLayer={false} margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--line)" vertical={false} />
          <XAxis
            dataKey="at"
            type="number"
            scale="time"
            domain={[from, end]}
            allowDuplicatedCategory={false}
            tickFormatter={(at: number) => format(at, 'MMM yy')}
            minTickGap={48}
            stroke="var(--muted)"
            tick={{ fontSize: 12, fill: 'var(--muted)' }}
            tickLine={false}
          />
          <YAxis
            width={44}
            domain={[0, 'auto']}
            stroke="var(--muted)"
            tick={{ fontSize: 12, fill: 'var(--muted)' }}
            tickFormatter={(value: number) => `${String(Math.round(value * 10) / 10)} TB`}
            tickLine={false}
            axisLine={false}
          />
          <ReferenceLine
            x={now}
            stroke="var(--muted)"
            strokeDasharray="2 3"
            label={{ value: 'today', position: 'insideTopLeft', fontSize: 12, fill: 'var(--muted)' }}
          />
          <Area
            data={joined}
            dataKey="span"
            type="linear"
            stroke="none"
            fill="var(--action)"
            fillOpacity={0.18}
            isAnimationActive={false}
          />
          <Line
            data={joined}
            dataKey="likely"
            stroke="var(--action)"
            strokeDasharray="5 3"
            strokeWidth={1.5}
            dot={false}
            isAnimationActive={false}
          />
          <Line
            data={used}
            dataKey="used"
            stroke="var(--ink)"
            strokeWidth={1.5}
            dot={false}
            isAnimationActive={false}
          />
          <Line
            data={held}
            dataKey="room"
            type="stepAfter"
            stroke="var(--watch)"
            strokeWidth={2}
            dot={false}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
      {steps.length > 0 && (
        <>
          <MarginDrawn {...{ ...margin, now, from, end }} />
          <MoneyDrawn {...{ steps, now, from, end, currency }} />
        </>
      )}
    </>
  );
}

/** A dip is hours on a picture of years: it is drawn at least this share of it wide. */
const LEAST_DIP = 1 / 160;

/** How many more may fail, on the same time as the fan above it. */
function MarginDrawn({
  full,
  dips,
  now,
  from,
  end,
}: Props['margin'] & { readonly now: number; readonly from: number; readonly end: number }): ReactNode {
  const points = [
    { at: now, margin: full },
    ...dips.flatMap(({ month, least, thinHours, after }) => {
      const at = addMonths(now, month).getTime();
      return [
        { at, margin: least },
        { at: at + Math.max(thinHours * 3_600_000, (end - from) * LEAST_DIP), margin: after },
      ];
    }),
    { at: end, margin: dips.at(-1)?.after ?? full },
  ];
  const most = Math.max(1, ...points.map(({ margin }) => margin));
  return (
    <ResponsiveContainer width="100%" height="20%">
      <ComposedChart accessibilityLayer={false} data={points} margin={{ top: 10, right: 12, bottom: 2, left: 0 }}>
        <XAxis dataKey="at" type="number" scale="time" domain={[from, end]} hide />
        <YAxis
          width={44}
          domain={[0, most]}
          ticks={Array.from({ length: most + 1 }, (_, i) => i)}
          tickFormatter={(value: number) => (value === 0 ? 'none' : `lose ${String(value)}`)}
          stroke="var(--muted)"
          tick={{ fontSize: 12, fill: 'var(--muted)' }}
          tickLine={false}
          axisLine={false}
          interval="preserveStartEnd"
        />
        <ReferenceLine y={0} stroke="var(--line)" />
        <Line
          dataKey="margin"
          type="stepAfter"
          stroke="var(--ink)"
          strokeWidth={1.5}
          dot={false}
          isAnimationActive={false}
        />
      </ComposedChart>
    </ResponsiveContainer>
  );
}

/** What is paid when, on the same time as the fan above it. */
function MoneyDrawn({
  steps,
  now,
  from,
  end,
  currency,
}: Pick<Props, 'steps' | 'currency'> & {
  readonly now: number;
  readonly from: number;
  readonly end: number;
}): ReactNode {
  const months = [...new Set(steps.map(({ month }) => month))];
  const paid = months.map((month) => ({
    at: addMonths(now, month).getTime(),
    money: steps.reduce((sum, step) => (step.month === month ? sum + step.cents : sum), 0) / 100,
  }));
  const words = new Intl.NumberFormat('en', { style: 'currency', currency, maximumFractionDigits: 0 });
  return (
    <ResponsiveContainer width="100%" height="20%">
      <ComposedChart accessibilityLayer={false} data={paid} margin={{ top: 16, right: 12, bottom: 0, left: 0 }}>
        <XAxis dataKey="at" type="number" scale="time" domain={[from, end]} hide />
        <YAxis width={44} domain={[0, 'auto']} tick={false} axisLine={false} tickLine={false} />
        <Bar dataKey="money" barSize={10} fill="var(--muted)" isAnimationActive={false}>
          <LabelList
            dataKey="money"
            position="top"
            fontSize={12}
            fill="var(--ink)"
            formatter={(value) => words.format(Number(value))}
          />
        </Bar>
      </ComposedChart>
    </ResponsiveContainer>
  );
}
