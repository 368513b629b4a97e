import { Check, X } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Joining } from '~/core/move/merge';
import { formatBytes } from '~/core/quantity/formatBytes';
import { hoursWords } from '~/core/quantity/hoursWords';
import { ButtonLink } from '~/web/parts/form/Button';

interface Props {
  readonly to: string;
  /** The unit they join. */
  readonly name: string;
  readonly joining: readonly Joining[];
  readonly mayBegin: boolean;
}

/** The units that join another, in their order: what each takes, what is left then, and what stands in the way. */
export function JoiningUnits({ to, name, joining, mayBegin }: Props): ReactNode {
  const first = joining.find(({ whyNot }) => whyNot.length === 0);
  return (
    <ol className="grid gap-3" data-joining>
      {joining.map(({ id, name: unit, bytes, hours, pool, whyNot, namesTaken }, i) => {
        const isPossible = whyNot.length === 0;
        return (
          <li
            key={id}
            className={`max-w-[840px] border bg-surface p-4 ${isPossible ? 'border-action' : 'border-line'}`}
            data-joins={isPossible ? 'possible' : 'not'}
          >
            <h2 className="flex items-center gap-2 text-lg">
              {isPossible ? (
                <Check size={18} aria-hidden className="text-action" />
              ) : (
                <X size={18} aria-hidden className="text-muted" />
              )}
              {i + 1}. {unit}
              <span className="text-sm font-normal text-muted">{isPossible ? 'can join' : 'cannot join now'}</span>
            </h2>
            {pool && (
              <p>
                {formatBytes(bytes)} in use, copied in {hoursWords(hours[0])} to {hoursWords(hours[2])}, likely{' '}
                {hoursWords(hours[1])}. They go to {pool.name}: {formatBytes(pool.leftBytes)} are left there then.
              </p>
            )}
            <ul className="list-disc pl-5">
              {whyNot.map((reason) => (
                <li key={reason}>{reason}</li>
              ))}
            </ul>
            {namesTaken.length > 0 && (
              <p className="mt-2 border-l-4 border-watch pl-3">
                <strong>Names that are taken at {name}, or by one before it:</strong> {namesTaken.join('; ')}. Choose
                others before anything is copied.
              </p>
            )}
            {isPossible && mayBegin && (
              <p className="mt-3">
                {id === first?.id ? (
                  <ButtonLink href={`/units/${id}/move?to=${to}&way=copy&address=kept`}>See its plan</ButtonLink>
                ) : (
                  <span className="text-muted">Its plan is made when the one before it is done.</span>
                )}
              </p>
            )}
          </li>
        );
      })}
    </ol>
  );
}
