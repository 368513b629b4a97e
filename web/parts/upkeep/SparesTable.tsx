import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { BayCover } from '~/core/upkeep/spareCoverage';
import { DataTable, type Column, type ListAddress } from '~/web/parts/table/DataTable';
import { Serial } from '~/web/parts/unit/Serial';

export interface SpareRow extends BayCover {
  readonly unitName: string;
}

const REACH_WORDS = {
  'in-unit': 'in the unit',
  'same-room': 'in the room',
  'same-site': 'at the site',
  'other-site': 'at',
} as const;
/** What nothing covers comes first, then what lies far away. */
const FAR = ['other-site', 'same-site', 'same-room', 'in-unit'] as const;

const COLUMNS: readonly Column<SpareRow>[] = [
  {
    id: 'unit',
    head: 'Unit',
    value: ({ unitName }) => unitName,
    cell: ({ unit, unitName, bay }) => (
      <Link href={`/units/${unit}?bay=${encodeURIComponent(bay)}`} className="underline decoration-line">
        {unitName}
      </Link>
    ),
  },
  { id: 'bay', head: 'Bay', value: ({ place }) => place },
  { id: 'drive', head: 'Drive', value: ({ serial }) => serial, cell: ({ serial }) => <Serial of={serial} /> },
  {
    id: 'needs',
    head: 'Needs at least',
    value: ({ neededBytes }) => neededBytes,
    cell: ({ neededBytes }) => formatBytes(neededBytes),
    isFigure: true,
  },
  {
    id: 'nearest',
    head: 'Nearest that fits',
    value: ({ spares: [nearest] }) => (nearest ? 1 + FAR.indexOf(nearest.reach) : 0),
    words: ({ spares: [nearest] }) =>
      `${nearest?.serial ?? 'nothing fits'} ${nearest?.place?.site ?? ''} ${nearest?.place?.drawer ?? ''}`,
    cell: nearestOf,
  },
  {
    id: 'others',
    head: 'Others',
    value: ({ spares }) => Math.max(0, spares.length - 1),
    cell: ({ spares }) => (spares.length > 1 ? `${String(spares.length - 1)} more` : ''),
  },
];

/** For every member: which spare really fits, and how far away it is. */
export function SparesTable({ rows, ...address }: { readonly rows: readonly SpareRow[] } & ListAddress): ReactNode {
  return (
    <DataTable label="Spares" columns={COLUMNS} rows={rows} keyOf={({ unit, bay }) => `${unit} ${bay}`} {...address} />
  );
}

function nearestOf({ spares: [nearest] }: SpareRow): ReactNode {
  if (!nearest) return <strong className="text-thinned">nothing fits</strong>;
  const { reach, serial, place, sizeUncertain } = nearest;
  return (
    <span className={reach === 'other-site' ? 'text-watch' : ''}>
      <Serial of={serial} /> {REACH_WORDS[reach]}
      {place && (reach === 'other-site' ? ` ${place.site}, ${place.drawer}` : `, ${place.drawer}`)}
      {sizeUncertain && ', by its label only'}
    </span>
  );
}
