'use client';
import { useEffect, useState, type ReactNode } from 'react';
import type { PlanStep, StepEvidence } from '~/core/plan/plan';
import { provesStep } from '~/core/observe/provesStep';
import { bayName } from '~/core/unit/bayName';
import type { UnitState } from '~/core/unit/state';
import { api, type AnswerOf } from '~/web/parts/form/api';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { Moment } from '~/web/parts/unit/Moment';
import { Lamp } from './Lamp';

interface Props {
  readonly id: string;
  readonly unit: UnitState;
  /** The version of the unit the plan is shown at. */
  readonly version: number;
  readonly step: PlanStep;
  /** The step can be done now. */
  readonly isOpen: boolean;
  readonly busy: boolean;
  readonly onEvidence: (evidence: StepEvidence) => void;
  /** Something was recorded of the unit since. */
  readonly onNews: () => void;
}

/** How often it is looked at while somebody stands before the unit. */
const EVERY_MS = 4000;

/** What the unit itself says of a step, where it is asked: proof, or a reason to stop; and its locate light. */
export function UnitSays({ id, unit, version, step, isOpen, busy, onEvidence, onNews }: Props): ReactNode {
  const [heard, setHeard] = useState<AnswerOf<'GET /units/{id}/watch'> | null>(null);
  /** Serials it has told of since this page is open: one that was seen and is no more has come out. */
  const [before, setBefore] = useState<readonly string[]>([]);
  const [turn, setTurn] = useState(0);
  const isWatched = heard === null || heard.watch !== null;
  useEffect(() => {
    if (!isWatched) return;
    let isHere = true;
    const ask = async (): Promise<void> => {
      const sent = await api('GET /units/{id}/watch', { id });
      // Without a network there is nothing to say, and nothing in the way.
      if (!isHere || sent.kind !== 'done') return;
      setHeard(sent.answer);
      const told = (sent.answer.watch?.bays ?? []).flatMap(({ serial }) => serial ?? []);
      setBefore((was) => [...new Set([...was, ...told])]);
    };
    void ask();
    const timer = setInterval(() => void ask(), EVERY_MS);
    return () => {
      isHere = false;
      clearInterval(timer);
    };
  }, [id, isWatched, turn]);
  const isBehind = heard !== null && heard.version > version;
  useEffect(() => {
    if (isBehind && !busy) onNews();
    // One look for each piece of news.
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the callback is another at every drawing
  }, [heard?.version, isBehind]);
  const watch = heard?.watch;
  if (!watch) return null;
  const { bay } = step;
  // What was heard a while ago proves nothing now.
  const isOld = (watch.heardSecondsAgo ?? Infinity) > watch.everySeconds + 60;
  const said = watch.trouble || isBehind || isOld ? null : provesStep(unit, step, watch.bays, before);
  const { evidence } = said ?? {};
  return (
    <div className="mt-4 max-w-[640px]" data-unit-says={said?.isWrong ? 'wrong' : evidence ? 'proof' : 'waits'}>
      {said?.isWrong ? (
        <Notice grave title={said.sentence}>
          <p>
            Asked <Moment at={watch.heardAt ?? ''} relative />.
          </p>
        </Notice>
      ) : (
        <div className="flex flex-wrap items-center gap-3 border-l-4 border-action bg-chosen px-4 py-2">
          <p className="min-w-0 flex-1">
            {watch.trouble
              ? watch.trouble.sentence
              : (said?.sentence ?? 'The unit has nothing to say of this step yet.')}{' '}
            {watch.heardAt !== null && (
              <span className="text-sm text-muted">
                Heard <Moment at={watch.heardAt} relative />
              </span>
            )}
          </p>
          {evidence && isOpen && (
            <Button look="main" className="min-h-11" disabled={busy} onClick={() => onEvidence(evidence)}>
              The unit has seen it: go on
            </Button>
          )}
          {bay !== undefined && (
            <Lamp
              id={id}
              bay={bay}
              where={bayName(unit, bay)}
              lights={watch.lights}
              maySwitch
              onDone={() => setTurn((now) => now + 1)}
            />
          )}
        </div>
      )}
    </div>
  );
}
