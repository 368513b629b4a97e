'use client';
import { useId, useState, type ReactNode } from 'react';
import type { Band } from '~/core/layout/band';
import { formatBytes } from '~/core/quantity/formatBytes';
import { placeMap, type MapInput } from './geometry';

const TINTS = ['var(--band-1)', 'var(--band-2)', 'var(--band-3)', 'var(--band-4)', 'var(--band-5)'];
const AXIS = 52;
const TOP = 8;

/** What a band is, and what it survives. */
export function bandWords({ kind, members, redundancy, usableBytes }: Band): string {
  const count = members.length;
  const what = {
    single: 'one drive on its own',
    span: 'part of a span',
    stripe: `striped over ${String(count)}`,
    mirror: `mirror of ${String(count)}`,
    parity: `${redundancy === 1 ? 'single' : 'double'} parity over ${String(count)}`,
    dedicated: `${String(count - redundancy)} data, ${String(redundancy)} parity`,
  }[kind];
  const survives =
    redundancy === 0
      ? 'survives no failure'
      : `survives ${redundancy === 1 ? 'one failure' : `${String(redundancy)} failures`}`;
  return `${what}, ${formatBytes(usableBytes)} usable, ${survives}`;
}

/** A pool to scale: a column per drive as high as the drive, cut in bands, hatching for protection, dots for unused. */
export function PoolMap({
  input,
  width = 390,
  height = 230,
  label,
}: {
  readonly input: MapInput;
  readonly width?: number;
  readonly height?: number;
  readonly label: string;
}): ReactNode {
  const id = useId().replaceAll(':', '');
  const [over, setOver] = useState<number | null>(null);
  const { columns, bands, ticks } = placeMap(input, width - AXIS, height);
  const isNarrow = (columns[0]?.width ?? 99) < 34;
  const tint = (band: number): string => TINTS[band % TINTS.length] as string;
  const isSameForAll = input.bands.length > 6;
  return (
    <div>
      <svg
        viewBox={`0 0 ${String(width)} ${String(height + TOP + 40)}`}
        className="w-full"
        role="group"
        aria-label={label}
      >
        <defs>
          <pattern id={`${id}-hatch`} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="3" height="7" fill="var(--hatch)" />
          </pattern>
          <pattern id={`${id}-dots`} width="6" height="6" patternUnits="userSpaceOnUse">
            <circle cx="2" cy="2" r="1" fill="var(--muted)" />
          </pattern>
        </defs>
        <g transform={`translate(0 ${String(TOP)})`} className="fill-muted text-[11px]" aria-hidden>
          {ticks.map(({ bytes, y }) => (
            <g key={bytes}>
              <line x1={AXIS - 8} x2={width} y1={y} y2={y} stroke="var(--line)" strokeWidth="0.6" />
              <text x={AXIS - 12} y={y + 4} textAnchor="end">
                {bytes === 0 ? '0' : formatBytes(bytes)}
              </text>
            </g>
          ))}
        </g>
        <g transform={`translate(${String(AXIS)} ${String(TOP)})`}>
          {columns.map((column, i) => (
            <rect
              key={column.name}
              x={column.x}
              y={column.y}
              width={column.width}
              height={column.height}
              fill="var(--side-strong)"
              stroke="var(--muted)"
              strokeWidth="1"
              strokeDasharray={input.columns[i]?.state === 'spare' ? '4 3' : undefined}
              fillOpacity={input.columns[i]?.state === 'spare' ? 0 : 0.85}
            />
          ))}
          {input.unused.map(({ bay, fromBytes, toBytes, why }) => {
            const column = columns.find(({ name }) => name === bay);
            const whole = input.columns.find(({ name }) => name === bay)?.bytes ?? 1;
            if (!column) return null;
            const top = column.y + column.height * (1 - toBytes / whole);
            const high = (column.height * (toBytes - fromBytes)) / whole;
            return (
              <g key={bay}>
                <rect x={column.x} y={top} width={column.width} height={high} fill="var(--surface)" />
                <rect
                  x={column.x}
                  y={top}
                  width={column.width}
                  height={high}
                  fill={`url(#${id}-dots)`}
                  stroke="var(--muted)"
                  strokeDasharray="2 3"
                >
                  <title>{`${formatBytes(toBytes - fromBytes)} unused. ${why}`}</title>
                </rect>
              </g>
            );
          })}
          {bands.map((boxes, index) => {
            const band = input.bands[index] as Band;
            return (
              <g
                key={`${String(band.fromBytes)} ${band.members.join()}`}
                tabIndex={0}
                role="img"
                aria-label={`Band ${String(index + 1)}: ${bandWords(band)}`}
                className="cursor-default outline-none focus-visible:[&>rect]:stroke-[var(--ink)] focus-visible:[&>rect]:stroke-2"
                onMouseEnter={() => setOver(index)}
                onMouseLeave={() => setOver(null)}
                onFocus={() => setOver(index)}
                onBlur={() => setOver(null)}
              >
                {boxes.map(({ box, protection }, member) => (
                  <g key={band.members[member]} opacity={over === null || over === index ? 1 : 0.45}>
                    <rect {...box} fill={tint(index)} stroke="var(--surface)" strokeWidth="1.2" />
                    {protection && <rect {...protection} fill={`url(#${id}-hatch)`} />}
                  </g>
                ))}
              </g>
            );
          })}
          {input.columns.map(({ name, short, title, under, state }, i) => {
            const column = columns[i];
            if (!column) return null;
            const middle = column.x + column.width / 2;
            return (
              <g key={name} textAnchor="middle">
                {state === 'missing' && (
                  <path
                    d={`M${String(column.x + 4)} ${String(column.y + 4)} L${String(column.x + column.width - 4)} ${String(height - 4)} M${String(column.x + column.width - 4)} ${String(column.y + 4)} L${String(column.x + 4)} ${String(height - 4)}`}
                    stroke="var(--thinned)"
                    strokeWidth="2.5"
                  />
                )}
                {!isNarrow && (
                  <text x={middle} y={height + 16} className="fill-ink text-[12px] font-bold">
                    {title}
                  </text>
                )}
                <text x={middle} y={height + (isNarrow ? 14 : 30)} className="fill-muted text-[11px]">
                  {isNarrow ? short : under}
                </text>
              </g>
            );
          })}
        </g>
      </svg>
      <ul className="keeps-colour mt-1 grid gap-0.5 text-sm" aria-label="Bands">
        {(isSameForAll ? input.bands.slice(0, 5) : input.bands).map((band, index) => (
          <li
            key={`${String(band.fromBytes)} ${band.members.join()}`}
            className={`flex items-baseline gap-2 ${over === index ? 'font-semibold' : ''}`}
          >
            <span
              aria-hidden
              className="inline-block size-2.5 shrink-0 self-center"
              style={{ background: tint(index) }}
            />
            Band {index + 1}: {bandWords(band)}
          </li>
        ))}
        {isSameForAll && (
          <li className="text-muted">and {input.bands.length - 5} more bands; point at one to read it.</li>
        )}
      </ul>
      {isSameForAll && over !== null && over >= 5 && (
        <p className="text-sm font-semibold">{`Band ${String(over + 1)}: ${bandWords(input.bands[over] as Band)}`}</p>
      )}
    </div>
  );
}
