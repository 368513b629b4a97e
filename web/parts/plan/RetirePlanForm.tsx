'use client';
import type { ReactNode } from 'react';
import { keptUntil } from '~/core/unit/keptUntil';
import { dayOf } from '~/core/quantity/days';
import { PlanAsk, type PlanFormProps } from './PlanAsk';
import { usePlanTried } from './usePlanTried';

const WISH = {};

/** The plan that takes a unit out of use: nothing is asked, but everything is shown. */
export function RetirePlanForm({ unit, ...at }: PlanFormProps): ReactNode {
  const tried = usePlanTried('retire', at.id, WISH);
  const until = keptUntil(unit);
  return (
    <PlanAsk {...at} unit={unit} job="retire" wish={WISH} tried={tried}>
      {until !== undefined && (
        <p data-kept-until>
          What it held was moved away: it is kept as it is until {dayOf(until)}. The plan can be begun, and waits at
          that step until then.
        </p>
      )}
    </PlanAsk>
  );
}
