import 'server-only';
import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import type { UnitState } from '~/core/unit/state';
import type { Role } from '~/schemas/access';
import { mayAct } from '~/service/access/viewer';
import { readPlanStart, type PlanStart } from '~/service/plans/readPlanStart';
import type { PlanFormProps } from '~/web/parts/plan/PlanAsk';
import { insidePage } from './insidePage';

interface Asked {
  readonly title: (unit: string) => string;
  /** What it is about, in a sentence or two. */
  readonly intro: (unit: UnitState) => string;
  readonly form: (
    props: PlanFormProps,
    also: Pick<PlanStart, 'drawers' | 'rates'> & {
      readonly first: string | undefined;
      readonly serial: string | undefined;
    },
  ) => ReactNode;
}

/** The page on which a plan for a unit in use is asked for, tried and begun. */
export function planPage(needs: Role, { title, intro, form }: Asked): ReturnType<typeof insidePage> {
  return insidePage(needs, async ({ app, viewer, params, query, now }) => {
    const start = await readPlanStart(app, params['id'] ?? '', now);
    if (!start) notFound();
    const { unit, drawers, rates } = start;
    const said = (name: string): string | undefined => {
      const value = query[name];
      return typeof value === 'string' ? value : undefined;
    };
    return (
      <div className="p-5 max-sm:p-4">
        <h1 className="text-xl">{title(unit.state.name)}</h1>
        <p className="mb-4 max-w-[720px] text-muted">{intro(unit.state)}</p>
        {form(
          { id: unit.id, version: unit.version, unit: unit.state, mayRecord: mayAct(viewer, 'keeper') },
          { drawers, rates, first: said('pool'), serial: said('serial') },
        )}
      </div>
    );
  });
}
