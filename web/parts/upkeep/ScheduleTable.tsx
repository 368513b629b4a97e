import Link from 'next/link';
import type { ReactNode } from 'react';
import { everyWords } from '~/core/record/eventWords';
import type { DueTask } from '~/core/upkeep/upkeepOf';
import { Moment } from '~/web/parts/unit/Moment';

export interface ScheduledTask extends DueTask {
  readonly unitId: string;
  readonly unitName: string;
}

/** What is due, over all units, soonest first. */
export function ScheduleTable({ tasks, today }: { readonly tasks: readonly ScheduledTask[]; readonly today: string }): ReactNode {
  return (
    <table className="w-full border border-line bg-surface">
      <thead className="text-left text-sm text-muted">
        <tr>
          {['Due', 'Unit', 'What', 'How often', 'Last done'].map((head) => (
            <th key={head} scope="col" className="px-3 py-1.5 font-normal">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {tasks.map((task) => (
          <tr key={task.unitId + task.id} className="border-t border-line">
            <td className={`px-3 py-1.5 whitespace-nowrap ${(task.due ?? '') <= today ? 'font-semibold text-watch' : ''}`}>
              {(task.due ?? '') <= today ? `since ${task.due ?? ''}` : task.due}
            </td>
            <td className="px-3 py-1.5">
              <Link href={`/units/${task.unitId}?view=upkeep`} className="font-semibold underline decoration-line">
                {task.unitName}
              </Link>
            </td>
            <td className="px-3 py-1.5">{task.title}</td>
            <td className="px-3 py-1.5 text-muted">{everyWords(task)}</td>
            <td className="px-3 py-1.5 text-muted">{task.lastDone === null ? 'not yet' : <Moment at={task.lastDone} relative />}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
