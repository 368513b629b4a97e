import type { Override, StepEvidence } from '~/core/plan/plan';
import { keepText, keptText, parseKept } from '~/web/parts/form/kept';

/** A step that was confirmed here and has not reached the server: kept in this browser until it has. */
export interface NotYetSent {
  /** The act it becomes: sent twice, it is written once. */
  readonly act: string;
  readonly step: string;
  readonly title: string;
  readonly evidence: StepEvidence;
  /** When the person did it, which is when it happened. */
  readonly happenedAt: string;
  readonly override?: Override;
  /** It was tried here and stopped: it is told when the network is back, and changes nothing. */
  readonly wasStopped?: true;
}

export function waitingKey(unit: string, plan: string): string {
  return `shelf-not-yet-sent:${unit}:${plan}`;
}

export function queueOf(text: string): readonly NotYetSent[] {
  const kept = parseKept<unknown>(text, []);
  return Array.isArray(kept) ? (kept as NotYetSent[]) : [];
}

export function queueNow(key: string): readonly NotYetSent[] {
  return queueOf(keptText(key));
}

export function keepNotYetSent(key: string, queue: readonly NotYetSent[]): void {
  keepText(key, queue.length === 0 ? '' : JSON.stringify(queue));
}
