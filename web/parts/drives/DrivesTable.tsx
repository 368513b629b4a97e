import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import { whereWords } from '~/core/driveLife/driveEventWords';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { DriveCondition } from '~/core/unit/state';
import { CONDITION_WORDS } from '~/core/unit/standingWords';
import type { DriveColumn, ListedDrive } from '~/service/drives/readDrives';
import { DataTable, type Column } from '~/web/parts/table/DataTable';
import { Moment } from '~/web/parts/unit/Moment';
import { Serial } from '~/web/parts/unit/Serial';

interface Props {
  readonly drives: readonly ListedDrive[];
  readonly query: Readonly<Record<string, string | string[] | undefined>>;
  readonly kept: Readonly<Record<string, string>>;
  readonly size: number;
  /** How many there are in all, of what was asked for. */
  readonly total: number;
}

const COLUMNS: readonly (Column<ListedDrive> & { readonly id: DriveColumn })[] = [
  {
    id: 'serial',
    head: 'Serial',
    value: ({ life }) => life.serial,
    cell: ({ life }) => <SerialLink of={life.serial} />,
  },
  { id: 'where', head: 'Where', value: ({ life }) => whereWords(life.where) },
  {
    id: 'size',
    head: 'Size',
    value: ({ life }) => life.drive.bytes,
    cell: ({ life }) => formatBytes(life.drive.bytes),
    isFigure: true,
  },
  { id: 'model', head: 'Model', value: ({ life }) => life.drive.model ?? null },
  { id: 'condition', head: 'Condition', value: ({ condition }) => condition, cell: conditionOf },
  { id: 'role', head: 'Role', value: ({ role }) => role },
  {
    id: 'since',
    head: 'Since',
    value: ({ life }) => life.whereSince,
    cell: ({ life }) => <Moment at={life.whereSince} />,
  },
  { id: 'warranty', head: 'Warranty until', value: ({ life }) => life.drive.warrantyUntil ?? null },
];

/** Every drive by serial, with where it is and what is known of it. */
export function DrivesTable({ drives, ...list }: Props): ReactNode {
  return (
    <DataTable
      label="Drives"
      path="/drives"
      columns={COLUMNS}
      rows={drives}
      keyOf={({ life }) => life.serial}
      {...list}
    />
  );
}

function SerialLink({ of }: { readonly of: string }): ReactNode {
  return (
    <Link
      href={`/drives/${encodeURIComponent(of)}`}
      className="max-sm:flex max-sm:min-h-11 max-sm:items-center max-sm:[&_strong]:text-xl"
    >
      <Serial of={of} />
    </Link>
  );
}

function conditionOf({ life: { wiped, tested }, condition }: ListedDrive): ReactNode {
  if (condition === null) return wiped ? `wiped (${wiped.method})` : tested?.result;
  const words = CONDITION_WORDS[condition as DriveCondition];
  return condition === 'well' ? words : <strong className="text-thinned">{words}</strong>;
}
