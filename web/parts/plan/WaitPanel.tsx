'use client';
import { useMemo, useState, type ReactNode } from 'react';
import { estimateOfJob } from '~/core/rebuild/estimateOfJob';
import type { LiveEstimate } from '~/core/rebuild/liveEstimate';
import type { WorkKnown } from '~/core/rebuild/workKnown';
import { daysAfter } from '~/core/quantity/days';
import type { Job, UnitState } from '~/core/unit/state';
import { troubleBeside } from '~/core/unit/troubleBeside';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { FINDING_WORDS } from '~/web/parts/frame/waitWords';
import { Sentence } from '~/web/parts/frame/Sentence';
import { Moment } from '~/web/parts/unit/Moment';
import { percentTyped } from './percentTyped';

interface Props {
  readonly unit: UnitState;
  readonly job: Job;
  readonly work: WorkKnown;
  /** How much there is in all, where it is bytes that come in. */
  readonly totalBytes: number | undefined;
  /** How long the plan reckoned with. */
  readonly hours: number | undefined;
  readonly busy: boolean;
  readonly onPercent: (percent: number) => void;
}

const runs = (count: number): string => (count === 1 ? 'one earlier run' : `${String(count)} earlier runs`);

/** What it was reckoned from beside drives and readings. */
function taughtWords({ earlier, earlierInFamily }: LiveEstimate): string {
  const own = earlier > 0 ? `${runs(earlier)} of this unit` : '';
  const others = earlierInFamily > 0 ? `${runs(earlierInFamily)} of others of its family` : '';
  return own === '' && others === '' ? '' : ` and what ${[own, others].filter(Boolean).join(' and ')} took`;
}

/** What spans like these held where the end was known, and what none of them can know (docs/decisions, live-estimate). */
function WhatHeld(): ReactNode {
  return (
    <details data-what-held>
      <summary className="cursor-pointer text-sm text-action underline max-sm:py-2.5">How far to trust that</summary>
      <p className="mt-1 max-w-[640px] text-sm text-muted">
        Tried on simulated work of twenty kinds, such spans held the end 75 to 95 times in 100. They held it less often,
        60 to 80 times, where something had not shown yet: a unit’s first pause at night, a speed that falls toward the
        end, people who come back on Monday, or a stall nobody knows the length of. Each percent you enter narrows it,
        and teaches the unit’s hours for the next time.
      </p>
    </details>
  );
}

/** Work that runs: how far it is, when it will be done, and the place to enter what percent it shows. */
export function WaitPanel({ unit, job, work, totalBytes, hours, busy, onPercent }: Props): ReactNode {
  const estimate = useMemo(() => estimateOfJob(unit, job, work), [unit, job, work]);
  const trouble = useMemo(() => troubleBeside(unit, job), [unit, job]);
  const isCopy = job.task === 'copy';
  // Of a copy that nothing was heard of yet the plan knows how long it takes.
  const planned = estimate === null && hours !== undefined ? daysAfter(job.startedAt, hours / 24) : undefined;
  const [text, setText] = useState('');
  const percent = percentTyped(text, totalBytes);
  const isReady = percent !== null;
  return (
    <section
      aria-label="How far it is"
      data-wait={job.id}
      className="mb-5 grid gap-3 border border-line bg-surface p-4"
    >
      <p className="text-[22px] leading-tight font-semibold max-sm:text-xl">
        {job.percent} %
        {planned !== undefined && (
          <>
            {' '}
            · as planned, done about <Moment at={planned} />
          </>
        )}
        {estimate && (
          <>
            {' '}
            · done about <Moment at={estimate.likely} />
          </>
        )}
      </p>
      {trouble.map(({ serial, sentence, todo }) => (
        <div key={serial} role="alert" data-trouble={serial} className="border-2 border-thinned bg-thinned-ground p-3">
          <p className="text-lg font-semibold">
            <Sentence of={sentence} />
          </p>
          <ul className="mt-1 list-disc pl-5">
            {todo.map((one) => (
              <li key={one}>
                <Sentence of={one} />
              </li>
            ))}
          </ul>
        </div>
      ))}
      {planned !== undefined && (
        <p>
          Reckoned from what there is to copy: large files as fast as the slowest part on the way. Many small ones take
          several times as long; with the first percent you enter it is reckoned anew.
        </p>
      )}
      {estimate && (
        <p>
          Four times out of five between <Moment at={estimate.low} /> and <Moment at={estimate.high} />;{' '}
          {estimate.reports === 0
            ? 'reckoned from its drives'
            : `from ${String(estimate.reports)} ${estimate.reports === 1 ? 'reading' : 'readings'}`}
          {taughtWords(estimate)}.
        </p>
      )}
      {estimate && <WhatHeld />}
      {estimate?.found.map((finding) => (
        <p key={finding} className="font-semibold text-watch">
          {FINDING_WORDS[finding]}
        </p>
      ))}
      <div
        className="h-2.5 bg-line"
        role="progressbar"
        aria-label="How far it is"
        aria-valuenow={job.percent}
        aria-valuemin={0}
        aria-valuemax={100}
      >
        <div className="board h-full" style={{ width: `${String(job.percent)}%` }} />
      </div>
      <p className="text-sm text-muted">
        Begun <Moment at={job.startedAt} />, last heard of <Moment at={job.heardAt} relative />.
      </p>
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (percent === null) return;
          onPercent(percent);
          setText('');
        }}
      >
        <div className="w-40">
          <Field
            label={totalBytes === undefined ? 'It shows, %' : 'In so far, % or bytes'}
            placeholder={totalBytes === undefined ? '' : '40, or 520 GB'}
            value={text}
            inputMode="decimal"
            autoComplete="off"
            data-percent
            onChange={(event) => setText(event.target.value)}
          />
        </div>
        <Button type="submit" className="mb-1 min-h-11" disabled={busy || !isReady}>
          Enter it
        </Button>
      </form>
      {unit.profile.rebuild.counts === 'each-band' && !isCopy && (
        <p className="text-sm text-muted">
          This family counts each band from 0 to 100: enter what it shows, the bands are told apart here.
        </p>
      )}
    </section>
  );
}
