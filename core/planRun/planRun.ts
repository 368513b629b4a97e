import type { Override, PlanBody, StepEvidence } from '../../schemas/plan';

export interface StepDone {
  readonly at: string;
  readonly evidence?: StepEvidence;
  /** Set when it was left out, with the reason. */
  readonly skipped?: string;
  /** Set when the owner went on where the record said stop. */
  readonly override?: Override;
}

/** A plan being worked through, and how far it is: the fold of its own ledger. */
export interface PlanRun {
  readonly kind: 'plan-run';
  /** The units it acts on. */
  readonly units: readonly string[];
  readonly plan: PlanBody;
  readonly startedAt: string;
  readonly done: Readonly<Record<string, StepDone>>;
  /** Set while it rests or waits for another pair of hands, with the words left for them. */
  readonly paused?: { readonly at: string; readonly note: string };
  /** How often a step was stopped. */
  readonly refused: number;
  readonly ended?: { readonly how: 'finished' | 'stopped'; readonly at: string; readonly note?: string };
}
