import type { PlanStep } from '../plan';

/**
 * A step for many bays as it is for one of them: a list of scans is as many single steps, each judged alone.
 *
 * @param instead the drive expected there that another comes in place of, as a person said
 */
export function aloneAt(step: PlanStep, bay: string, instead?: string): PlanStep {
  if (step.asks.kind !== 'scans') return step;
  const planned = step.asks.bays.find((one) => one.bay === bay)?.expects;
  const expects = planned === instead ? undefined : planned;
  return {
    ...step,
    does: step.does.filter((one) => isOfBay(one, bay, planned)),
    asks: { kind: 'serial', ...(expects === undefined ? {} : { expects }) },
  };
}

/** What a step does with the one drive that goes into a bay, or comes out of it. */
function isOfBay(one: PlanStep['does'][number], bay: string, planned: string | undefined): boolean {
  if (one.kind === 'towards-pool') return true;
  if (one.kind === 'fit-drive') return one.drive.bay === bay;
  return one.kind === 'carry-in' ? one.bay === bay : one.kind === 'pull-drive' && one.serial === planned;
}
