import type { ReactNode } from 'react';
import { poolsOf, type UnitState } from '~/core/unit/state';
import type { App } from '~/service/app';
import { outlookGround } from '~/service/units/outlookGround';
import { OutlookPoolLoader } from './OutlookPoolLoader';

interface Props {
  readonly app: App;
  readonly id: string;
  readonly unit: UnitState;
  readonly now: Date;
  readonly mayRecord: boolean;
}

/** The time ahead of each pool of a unit. */
export async function OutlookView({ app, id, unit, now, mayRecord }: Props): Promise<ReactNode> {
  const pools = poolsOf(unit);
  if (pools.length === 0)
    return <p className="text-muted">No pool has been made here yet: there is nothing to look ahead for.</p>;
  const grounds = await outlookGround(app, { id, state: unit }, now);
  return pools.map(({ id: pool, name }) => (
    <OutlookPoolLoader
      key={pool}
      title={`${name}, as it stands now`}
      planAt={mayRecord ? `/units/${id}/replace` : null}
      {...{ unit, pool }}
      now={now.toISOString()}
      {...grounds(pool)}
    />
  ));
}
