import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import { everyWords } from '~/core/record/eventWords';
import type { DueTask } from '~/core/upkeep/upkeepOf';
import { DataTable, type Column, type ListAddress } from '~/web/parts/table/DataTable';
import { Moment } from '~/web/parts/unit/Moment';

export interface ScheduledTask extends DueTask {
  readonly unitId: string;
  readonly unitName: string;
}

/** Days in each, to sort by. */
const DAYS = { day: 1, week: 7, month: 30, year: 365, once: 0 } as const;

const columnsOn = (today: string): readonly Column<ScheduledTask>[] => [
  { id: 'what', head: 'What', value: ({ title }) => title },
  {
    id: 'due',
    head: 'Due',
    value: ({ due }) => due,
    cell: ({ due }) => (
      <span className={`whitespace-nowrap ${due !== null && due <= today ? 'font-semibold text-watch' : ''}`}>
        {due === null ? 'done' : due <= today ? `since ${due}` : due}
      </span>
    ),
  },
  {
    id: 'unit',
    head: 'Unit',
    value: ({ unitName }) => unitName,
    cell: ({ unitId, unitName }) => (
      <Link href={`/units/${unitId}?view=upkeep`} className="font-semibold underline decoration-line">
        {unitName}
      </Link>
    ),
  },
  {
    id: 'every',
    head: 'How often',
    value: ({ every, unit }) => every * DAYS[unit],
    cell: everyWords,
    words: everyWords,
  },
  {
    id: 'last',
    head: 'Last done',
    value: ({ lastDone }) => lastDone,
    cell: ({ lastDone }) => (lastDone === null ? 'not yet' : <Moment at={lastDone} relative />),
  },
];

/** What is due, over all units, soonest first. */
export function ScheduleTable({
  tasks,
  today,
  ...address
}: { readonly tasks: readonly ScheduledTask[]; readonly today: string } & ListAddress): ReactNode {
  return (
    <DataTable
      label="Schedule"
      columns={columnsOn(today)}
      rows={tasks}
      keyOf={({ unitId, id }) => `${unitId} ${id}`}
      {...address}
    />
  );
}
