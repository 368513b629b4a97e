'use client';
import dynamic from 'next/dynamic';
import { useState, type ReactNode } from 'react';
import { CHECKS } from '~/schemas/unitEvent';
import { everyWords } from '~/core/record/eventWords';
import { CHECK_WORDS } from '~/core/upkeep/checks';
import { upkeepOf } from '~/core/upkeep/upkeepOf';
import type { UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';
import type { Say } from '~/web/parts/record/useEventSheet';
import { Refused } from '~/web/parts/way/Refused';
import { useRecord } from '~/web/parts/record/useRecord';
import { Moment } from './Moment';

const UpkeepForm = dynamic(() => import('./UpkeepForm').then((part) => part.UpkeepForm), { ssr: false });

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly today: string;
  readonly mayRecord: boolean;
}

/** What is done to one unit again and again, and what was made sure of once. */
export function UpkeepView({ id, version, unit, today, mayRecord }: Props): ReactNode {
  const recorder = useRecord();
  const [isAdding, setIsAdding] = useState(false);
  const say: Say = (event, sentence) => recorder.record({ unit: id, version, event, sentence });
  const tasks = upkeepOf(unit).sort((a, b) => ((a.due ?? '9') < (b.due ?? '9') ? -1 : 1));
  return (
    <div className="grid gap-5">
      <Refused fault={recorder.fault} way={recorder.way} />
      <table className="w-full border border-line bg-surface">
        <thead className="text-left text-sm text-muted">
          <tr>
            {['What', 'How often', 'Due', 'Last done', ''].map((head) => (
              <th key={head} scope="col" className="px-3 py-1.5 font-normal">
                {head || <span className="sr-only">Record</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {tasks.map(({ id: task, title, every, unit: of, due, lastDone }) => (
            <tr key={task} className="border-t border-line">
              <td className="px-3 py-1.5">{title}</td>
              <td className="px-3 py-1.5 text-muted">{everyWords({ every, unit: of })}</td>
              <td
                className={`px-3 py-1.5 whitespace-nowrap ${due !== null && due <= today ? 'font-semibold text-watch' : ''}`}
              >
                {due === null ? (of === 'once' ? 'done' : 'never again') : due <= today ? `due since ${due}` : due}
              </td>
              <td className="px-3 py-1.5 text-muted">
                {lastDone === null ? 'not yet' : <Moment at={lastDone} relative />}
              </td>
              <td className="no-print px-3 py-1.5 text-right whitespace-nowrap">
                {mayRecord && (
                  <>
                    <button
                      type="button"
                      className="min-h-9 px-2 text-action underline"
                      disabled={recorder.busy}
                      onClick={() => void say({ kind: 'upkeep-done', task }, `done: ${title}`)}
                    >
                      Done<span className="sr-only">: {title}</span>
                    </button>
                    <button
                      type="button"
                      className="min-h-9 px-2 text-muted underline"
                      disabled={recorder.busy}
                      onClick={() => void say({ kind: 'upkeep-dropped', task }, `dropped: ${title}`)}
                    >
                      Drop<span className="sr-only">: {title}</span>
                    </button>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {mayRecord && (
        <div className="no-print">
          <Button onClick={() => setIsAdding(true)}>Plan something…</Button>
        </div>
      )}
      <section aria-label="Made sure of">
        <h3 className="mb-1 text-lg">Made sure of</h3>
        <ul className="grid gap-1">
          {CHECKS.map((check) => {
            const at = unit.confirmed[check];
            return (
              <li key={check} className="flex flex-wrap items-center justify-between gap-3 border-b border-line py-1">
                <span>
                  {CHECK_WORDS[check]}
                  <span className="ml-2 text-muted">
                    {at === undefined ? 'not confirmed' : <Moment at={at} relative />}
                  </span>
                </span>
                {mayRecord && (
                  <Button
                    className="no-print"
                    disabled={recorder.busy}
                    onClick={() => void say({ kind: 'check-confirmed', check }, CHECK_WORDS[check])}
                  >
                    Confirm<span className="sr-only">: {CHECK_WORDS[check]}</span>
                  </Button>
                )}
              </li>
            );
          })}
        </ul>
      </section>
      {isAdding && (
        <FormDialog title="Something to do again and again" onClose={() => setIsAdding(false)}>
          <UpkeepForm
            unit={id}
            version={version}
            taken={unit.upkeep}
            today={today}
            onSay={async (event, sentence) => {
              const fault = await say(event, sentence);
              if (fault === null) setIsAdding(false);
              return fault;
            }}
          />
        </FormDialog>
      )}
    </div>
  );
}
