import Link from 'next/link';
import type { ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { BayCover } from '~/core/upkeep/spareCoverage';
import { Serial } from '~/web/parts/unit/Serial';

export interface SpareRow extends BayCover {
  readonly unitName: string;
}

const REACH_WORDS = { 'in-unit': 'in the unit', 'same-room': 'in the room', 'same-site': 'at the site', 'other-site': 'at' } as const;

/** For every member: which spare really fits, and how far away it is. */
export function SparesTable({ rows }: { readonly rows: readonly SpareRow[] }): ReactNode {
  return (
    <table className="w-full border border-line bg-surface">
      <thead className="text-left text-sm text-muted">
        <tr>
          {['Unit', 'Bay', 'Drive', 'Needs at least', 'Nearest that fits', 'Others'].map((head) => (
            <th key={head} scope="col" className={`px-3 py-1.5 font-normal ${head === 'Needs at least' ? 'text-right' : ''}`}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ unit, unitName, bay, place, serial, neededBytes, spares: fit }) => {
          const nearest = fit[0];
          return (
            <tr key={unit + bay} className="border-t border-line">
              <td className="px-3 py-1.5">
                <Link href={`/units/${unit}?bay=${encodeURIComponent(bay)}`} className="underline decoration-line">
                  {unitName}
                </Link>
              </td>
              <td className="px-3 py-1.5">{place}</td>
              <td className="px-3 py-1.5">
                <Serial of={serial} />
              </td>
              <td className="figures px-3 py-1.5">{formatBytes(neededBytes)}</td>
              <td className="px-3 py-1.5">
                {nearest ? (
                  <span className={nearest.reach === 'other-site' ? 'text-watch' : ''}>
                    <Serial of={nearest.serial} /> {REACH_WORDS[nearest.reach]}
                    {nearest.place && (nearest.reach === 'other-site' ? ` ${nearest.place.site}, ${nearest.place.drawer}` : `, ${nearest.place.drawer}`)}
                    {nearest.sizeUncertain && ', by its label only'}
                  </span>
                ) : (
                  <strong className="text-thinned">nothing fits</strong>
                )}
              </td>
              <td className="px-3 py-1.5 text-muted">{fit.length > 1 ? `${String(fit.length - 1)} more` : ''}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
