import type { Intention, PlanStep } from '../plan';

type Taking = Extract<Intention, { kind: 'fit-drive' | 'take-drive' }>;

/** The step's drive that goes into a bay, or is taken in hand for it. */
export function fitting({ does }: PlanStep): Taking | undefined {
  return does.find((one): one is Taking => one.kind === 'fit-drive' || one.kind === 'take-drive');
}

/** The step's drive that is to take over from a member: taken in hand, or put into the bay. */
export function takingOver({ does }: PlanStep): (Taking & { readonly for: string }) | undefined {
  return does.find(
    (one): one is Taking & { readonly for: string } =>
      (one.kind === 'fit-drive' || one.kind === 'take-drive') && one.for !== undefined,
  );
}
