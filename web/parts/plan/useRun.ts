'use client';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { toast } from 'sonner';
import { attempt } from '~/core/plan/attempt';
import type { Interlock } from '~/core/plan/interlock';
import type { Override, PlanStep, StepEvidence } from '~/core/plan/plan';
import { apply } from '~/core/unit/apply';
import type { PlanRun, UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { NO_ANSWER, send } from '~/web/parts/form/send';
import { keepNotYetSent, keptText, keyOf, parseKept, subscribeKept, type NotYetSent } from './notYetSent';

/** How often what waits is tried again. */
const AGAIN_MS = 4000;

/** What stopped a step, and with which evidence. */
export interface Stopped {
  readonly step: string;
  readonly evidence: StepEvidence;
  readonly interlocks: readonly Interlock[];
}

/** What the server holds against a step that was done here in the meantime. */
export interface Conflict {
  readonly sentence: string;
  readonly entry: NotYetSent;
}

interface Given {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly run: PlanRun;
}

/**
 * Works a plan from this browser. A step goes to the server; when the server is not reached it is tried on the same
 * model here, kept as "not yet sent", and sent in order once the network is back. What somebody else recorded in the
 * meantime is shown, and a person decides.
 */
export function useRun({ id, version, unit, run }: Given) {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [stopped, setStopped] = useState<Stopped | null>(null);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const newest = useRef(version);
  const flushing = useRef(false);
  const address = `/api/v1/units/${id}/plans/${run.id}`;

  const key = keyOf(id, run.id);
  const text = useSyncExternalStore(
    subscribeKept,
    () => keptText(key),
    () => '[]',
  );
  const queue = useMemo(() => parseKept(text), [text]);
  const waitingNow = useCallback(() => parseKept(keptText(key)), [key]);
  useEffect(() => {
    newest.current = Math.max(newest.current, version);
  }, [version]);

  /** The unit as it is once what waits here is counted in. */
  const local = useMemo(() => {
    let state = unit;
    for (const { step: stepId, evidence, happenedAt } of queue) {
      const step = run.plan.steps.find((one) => one.id === stepId);
      if (!step || Object.hasOwn(state.plans[run.id]?.done ?? {}, stepId)) continue;
      const seen = attempt(state, step, evidence, happenedAt);
      if (isRefusal(seen)) continue;
      const done = apply(seen.after, { kind: 'step-done', plan: run.id, step: stepId, evidence, causes: seen.events.length }, happenedAt);
      if (!isRefusal(done)) state = done;
    }
    return { unit: state, run: state.plans[run.id] ?? run };
  }, [unit, run, queue]);

  const post = useCallback(
    (entry: NotYetSent, at: number) =>
      send('POST', `${address}/steps`, {
        expectedVersion: at,
        step: entry.step,
        evidence: entry.evidence,
        happenedAt: entry.happenedAt,
        ...(entry.override === undefined ? {} : { override: entry.override }),
      }),
    [address],
  );

  /** True when the server has this very step already: it was received, and only the answer was lost. */
  const isThere = useCallback(
    async (entry: NotYetSent): Promise<boolean> => {
      const sent = await send('GET', `/api/v1/units/${id}`);
      if (sent.kind !== 'done') return false;
      const of = sent.answer as unknown as { readonly version: number; readonly state: UnitState };
      newest.current = of.version;
      const done = of.state.plans[run.id]?.done[entry.step];
      return done !== undefined && done.at === new Date(entry.happenedAt).toISOString();
    },
    [id, run.id],
  );

  const flush = useCallback(async (): Promise<void> => {
    if (flushing.current) return;
    flushing.current = true;
    try {
      for (let waiting = waitingNow(); waiting.length > 0; waiting = waitingNow()) {
        const [entry, ...rest] = waiting as [NotYetSent, ...NotYetSent[]];
        const sent = await post(entry, newest.current);
        if (sent.kind === 'refused') {
          if (sent.code === NO_ANSWER) return;
          if (!(await isThere(entry))) {
            setConflict({ sentence: sent.sentence, entry });
            return;
          }
        } else newest.current = Number(sent.answer['version']);
        keepNotYetSent(key, rest);
        if (rest.length === 0) {
          toast('Sent: everything that was done here is recorded.');
          router.refresh();
        }
      }
    } finally {
      flushing.current = false;
    }
  }, [key, waitingNow, post, isThere, router]);

  useEffect(() => {
    if (queue.length === 0 || conflict) return undefined;
    const again = (): void => void flush();
    const timer = setInterval(again, AGAIN_MS);
    window.addEventListener('online', again);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', again);
    };
  }, [queue, conflict, flush]);

  /** Confirms a step; true when it is done, here or there. */
  const confirm = async (step: PlanStep, evidence: StepEvidence, override?: Override): Promise<boolean> => {
    setBusy(true);
    setFault(null);
    setStopped(null);
    const entry: NotYetSent = {
      step: step.id,
      title: step.title,
      evidence,
      happenedAt: new Date().toISOString(),
      ...(override === undefined ? {} : { override }),
    };
    try {
      if (queue.length === 0) {
        const sent = await post(entry, newest.current);
        if (sent.kind === 'done') {
          newest.current = Number(sent.answer['version']);
          router.refresh();
          return true;
        }
        if (Array.isArray(sent.answer['interlocks'])) {
          newest.current = Number(sent.answer['version'] ?? newest.current);
          setStopped({ step: step.id, evidence, interlocks: sent.answer['interlocks'] as Interlock[] });
          router.refresh();
          return false;
        }
        if (sent.code !== NO_ANSWER) {
          if (sent.code === 'version-conflict') router.refresh();
          setFault(sent.sentence);
          return false;
        }
      }
      // No network: the same model decides here.
      const seen = attempt(local.unit, step, evidence, entry.happenedAt);
      if (isRefusal(seen)) {
        setFault(seen.sentence);
        return false;
      }
      if (seen.interlocks.length > 0) {
        setStopped({ step: step.id, evidence, interlocks: seen.interlocks });
        return false;
      }
      keepNotYetSent(key, [...waitingNow(), entry]);
      return true;
    } finally {
      setBusy(false);
    }
  };

  /** Anything else that is sent of the plan; needs the network. */
  const tell = async (path: string, body: object, said: string): Promise<boolean> => {
    setBusy(true);
    setFault(null);
    const sent = await send('POST', path.startsWith('/api') ? path : address + path, { expectedVersion: newest.current, ...body });
    setBusy(false);
    if (sent.kind === 'refused') {
      setFault(sent.sentence);
      if (sent.code === 'version-conflict') router.refresh();
      return false;
    }
    newest.current = Number(sent.answer['version'] ?? newest.current);
    toast(said);
    router.refresh();
    return true;
  };

  /** A person decides over a conflict: after what somebody else recorded, or not at all. */
  const decide = async (how: 'after' | 'drop'): Promise<void> => {
    if (!conflict) return;
    setConflict(null);
    if (how === 'drop') {
      keepNotYetSent(key, []);
      router.refresh();
      return;
    }
    await isThere(conflict.entry);
    await flush();
  };

  return { ...local, queue, busy, fault, stopped, conflict, confirm, tell, decide, clear: () => (setFault(null), setStopped(null)) };
}
