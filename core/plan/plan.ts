/**
 * A plan: steps with their reason, the evidence each asks for, what must be done before, and what it changes. The
 * shapes stand in the schema.
 */
export type { Override, Intention, PlanBody, PlanJob, PlanStep, StepEvidence } from '../../schemas/plan';
