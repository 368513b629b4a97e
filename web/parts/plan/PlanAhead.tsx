import { Fragment, type ReactNode } from 'react';
import { byBays, type DryStep, type DryStop } from '~/core/plan/engine/dryRun';
import type { PlanBody } from '~/core/plan/plan';
import type { PlanRisk } from '~/core/plan/engine/timeline';
import { formatBytes } from '~/core/quantity/formatBytes';
import { poolsOf, type Pool } from '~/core/unit/state';
import { Moment } from '~/web/parts/unit/Moment';
import { MarginTimeline, RiskFigures } from './MarginTimeline';
import { Sentence } from '~/web/parts/frame/Sentence';

interface Props {
  readonly plan: PlanBody;
  readonly ahead: readonly (DryStep | DryStop)[];
  readonly risks: readonly PlanRisk[];
  readonly pools: Readonly<Record<string, Pool>>;
  /** What else is seen of it. */
  readonly children?: ReactNode;
}

/** The pools the plan is about as they are when it is done. */
function spaceThen({ states }: DryStep, moved: readonly PlanRisk[]): readonly Pool[] {
  const all = Object.values(states).flatMap(poolsOf);
  const about = all.filter(({ id }) => moved.some(({ pool }) => pool === id));
  return about.length > 0 ? about : all;
}

/** What the plan risks and when: each pool's margin against time from "you are here", and what must be heard before. */
export function PlanAhead({ plan, ahead, risks, pools, children }: Props): ReactNode {
  const steps = ahead.filter((one): one is DryStep => one.kind === 'dry-step');
  const stop = ahead.find((one): one is DryStop => one.kind === 'dry-stop');
  const last = steps.at(-1);
  if (!last && !stop) return null;
  const named = (sentence: string): string => byBays(sentence, last?.after ?? { enclosures: [] });
  const hazards = steps.flatMap(({ hazards: of }) => of);
  const locks = steps.flatMap(({ interlocks }) => interlocks);
  const title = (id: string): string => plan.steps.find((step) => step.id === id)?.title ?? '';
  const moved = risks.filter(({ stretches }) => stretches.length > 1 || risks.length === 1);
  return (
    <aside
      aria-label="What this plan risks, and when"
      tabIndex={0}
      className="relative shrink-0 overflow-y-auto border-line bg-surface p-4 max-lg:border-t lg:w-[332px] lg:border-l"
    >
      <h2 className="text-lg">What this plan risks, and when</h2>
      {moved.map((risk) => (
        <section key={risk.pool} aria-label={pools[risk.pool]?.name ?? 'The new pool'} className="mb-3">
          {moved.length > 1 && <h3 className="mt-2 font-semibold">{pools[risk.pool]?.name}</h3>}
          <MarginTimeline risk={risk} label="Margin against time" />
          <RiskFigures risk={risk} />
        </section>
      ))}
      {children}
      {last && (
        <dl className="mt-3 grid grid-cols-[1fr_auto] gap-x-4 gap-y-1 border-t border-line pt-3">
          {/* Of the pools the plan is about, each by itself: a sum over others is nobody's space. */}
          {spaceThen(last, moved).map(({ id, name, usableBytes }) => (
            <Fragment key={id}>
              <dt className="text-muted">{moved.length > 1 ? `${name}, usable then` : 'Usable then'}</dt>
              <dd className="text-right">{formatBytes(usableBytes)}</dd>
            </Fragment>
          ))}
          <dt className="text-muted">Done at the earliest</dt>
          <dd className="text-right">
            <Moment at={last.at} />
          </dd>
        </dl>
      )}
      {[...new Set(hazards.map(({ sentence }) => sentence))].map((sentence) => (
        <p key={sentence} className="mt-2 text-thinned">
          <Sentence of={named(sentence)} />
        </p>
      ))}
      {locks.map(({ code, sentence, back }) => (
        <p key={code + sentence} className="mt-2 font-semibold text-thinned">
          It would be stopped: {named(sentence)} {named(back)}
        </p>
      ))}
      {stop && (
        <p className="mt-2 font-semibold text-thinned">
          It would stop at “{title(stop.step)}”: {named(stop.refusal.sentence)}
        </p>
      )}
      <p className="mt-3 border-t border-line pt-3 text-sm text-muted">
        <strong>Take care.</strong> Earth yourself before you touch a bare drive. If the unit has to be opened, unplug
        every supply first. A chance goes from what is best to what is worst to be thought of these drives, with their
        ages, signs and lots. Fire, a surge or a wrong command is not in it.
      </p>
    </aside>
  );
}
