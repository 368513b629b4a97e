'use client';
import dynamic from 'next/dynamic';
import type { ReactNode } from 'react';
import type { DaysProps } from './days';
import { useSeen } from './useSeen';

/** Comes when a chart is seen: it is the heaviest part of any page. */
const DaysLine = dynamic(() => import('./DaysLine').then((part) => part.DaysLine), { ssr: false });

/** Readings over time as an ink line, with its line to plan to and its last value written beside it. */
export function DaysChart({ label, points, unit, line, most }: DaysProps): ReactNode {
  const last = points.at(-1);
  const [place, isSeen] = useSeen();
  if (!last || points.length < 2) return null;
  return (
    <figure aria-label={label} className="mt-2">
      <figcaption className="flex justify-between text-sm text-muted">
        <span>{label}</span>
        <span>
          now {String(last.value)} {unit}
        </span>
      </figcaption>
      <div ref={place} className="h-[130px]" aria-hidden>
        {isSeen && (
          <DaysLine points={points} unit={unit} {...(line ? { line } : {})} {...(most === undefined ? {} : { most })} />
        )}
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
