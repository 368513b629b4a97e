import type { Override, StepEvidence } from '~/core/plan/plan';

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
}

const PREFIX = 'shelf-not-yet-sent:';
const CHANGED = 'shelf-not-yet-sent';

export function keyOf(unit: string, plan: string): string {
  return `${PREFIX}${unit}:${plan}`;
}

/** The text that is kept under a key; the same text as long as nothing changes. */
export function keptText(key: string): string {
  return localStorage.getItem(key) ?? '[]';
}

export function parseKept(text: string): NotYetSent[] {
  try {
    const kept: unknown = JSON.parse(text);
    return Array.isArray(kept) ? (kept as NotYetSent[]) : [];
  } catch {
    return [];
  }
}

export function keepNotYetSent(key: string, queue: readonly NotYetSent[]): void {
  if (queue.length === 0) localStorage.removeItem(key);
  else localStorage.setItem(key, JSON.stringify(queue));
  window.dispatchEvent(new Event(CHANGED));
}

/** Tells of changes made here and in other windows. */
export function subscribeKept(changed: () => void): () => void {
  window.addEventListener(CHANGED, changed);
  window.addEventListener('storage', changed);
  return () => {
    window.removeEventListener(CHANGED, changed);
    window.removeEventListener('storage', changed);
  };
}
