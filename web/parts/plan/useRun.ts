'use client';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useMemo, useRef, useState, useTransition } from 'react';
import type { Interlock } from '~/core/plan/engine/interlock';
import type { KnownDrive } from '~/core/plan/engine/knownDrive';
import type { Override, PlanStep, StepEvidence } from '~/core/plan/plan';
import type { PlanRun } from '~/core/planRun/planRun';
import type { UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { newId } from '~/web/parts/form/newId';
import { api } from '~/web/parts/form/api';
import { NO_ANSWER, type Sent } from '~/web/parts/form/send';
import { useKept } from '~/web/parts/form/kept';
import { tell } from '~/web/parts/tell/tell';
import type * as WorkHere from './workHere';
import { keepNotYetSent, waitingKey, queueNow, queueOf, type NotYetSent } from './notYetSent';

/** How often what waits is tried again. */
const AGAIN_MS = 4000;
/** So long after a plan is opened the model is fetched that works it without a network. */
const MODEL_AFTER_MS = 1500;

/** What stopped a step, and with which evidence. */
export interface Stopped {
  readonly step: string;
  readonly evidence: StepEvidence;
  readonly interlocks: readonly Interlock[];
}

/** What the server holds against a step that was done here in the meantime. */
export interface Conflict {
  /** `behind`: somebody recorded something meanwhile. `refused`: it cannot stand as it was done here. */
  readonly kind: 'behind' | 'refused';
  readonly sentence: string;
  readonly entry: NotYetSent;
}

interface Given {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly plan: string;
  readonly run: PlanRun;
  /** What is recorded of the drives that may be taken in hand. */
  readonly loose: readonly KnownDrive[];
  /** The other units it acts on, by id. */
  readonly others: Readonly<Record<string, UnitState>>;
}

/** The version a unit has by now, where nothing but how far some work is was written since: a unit that is watched tells that all the time. */
function heardMeanwhile(answer: Readonly<Record<string, unknown>>, unit: string): number | undefined {
  if (answer['code'] !== 'version-conflict' || answer['onlyHeard'] !== true) return undefined;
  const ledgers = answer['ledgers'] as readonly { readonly unit?: string; readonly version: number }[];
  return ledgers.find((one) => one.unit === unit)?.version;
}

/**
 * Works a plan from this browser. A step goes to the server; when the server is not reached it is tried on the same
 * model here, kept as "not yet sent", and sent in order once the network is back. What somebody else recorded in the
 * meantime is shown, and a person decides.
 */
export function useRun({ id, version, unit, plan, run, loose, others }: Given) {
  const router = useRouter();
  const [isLooking, startLooking] = useTransition();
  /** What was recorded is fetched anew; until it is there, the version on the page is an older one. */
  const look = useCallback(() => startLooking(() => router.refresh()), [router]);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [stopped, setStopped] = useState<Stopped | null>(null);
  const [conflict, setConflict] = useState<Conflict | null>(null);
  const newest = useRef(version);
  const flushing = useRef(false);

  const key = waitingKey(id, plan);
  const text = useKept(key);
  const queue = useMemo(() => queueOf(text), [text]);
  const waitingNow = useCallback(() => queueNow(key), [key]);
  useEffect(() => {
    newest.current = Math.max(newest.current, version);
  }, [version]);

  // Without anything that waits, it is as the server said, and the model is not needed.
  const [model, setModel] = useState<typeof WorkHere | null>(null);
  const loadModel = useCallback(
    (): Promise<typeof WorkHere> =>
      import('./workHere').then((loaded) => {
        setModel(loaded);
        return loaded;
      }),
    [],
  );
  // It is fetched while there is a network, after everything that is looked at.
  useEffect(() => {
    const isWanted = queue.length > 0;
    const soon = setTimeout(
      () =>
        void loadModel().catch(() => {
          if (isWanted)
            setFault(
              'What was confirmed here and is not sent is kept, but cannot be counted in without a network: wait for it before you go on.',
            );
        }),
      isWanted ? 0 : MODEL_AFTER_MS,
    );
    return () => clearTimeout(soon);
  }, [loadModel, queue]);
  const recorded = useMemo(() => ({ id, unit, plan, run, loose, others }), [id, unit, plan, run, loose, others]);
  const here = useMemo(
    () => (queue.length === 0 ? { unit, run, others } : model ? model.workedHere(recorded, queue) : null),
    [unit, run, others, recorded, queue, model],
  );

  const post = useCallback(
    async (entry: NotYetSent, at: number) => {
      const send = (expectedVersion: number) =>
        api('POST /units/{id}/plans/{plan}/steps', {
          id,
          plan,
          body: {
            expectedVersion,
            act: entry.act,
            step: entry.step,
            evidence: entry.evidence,
            happenedAt: entry.happenedAt,
            ...(entry.override === undefined ? {} : { override: entry.override }),
            ...(entry.wasStopped ? { wasStopped: true } : {}),
          },
        });
      const sent = await send(at);
      const now = sent.kind === 'refused' ? heardMeanwhile(sent.answer, id) : undefined;
      return now === undefined ? sent : send(now);
    },
    [id, plan],
  );

  /** The version the unit has by now, whoever recorded what in the meantime. */
  const lookAgain = useCallback(async (): Promise<void> => {
    const sent = await api('GET /units/{id}', { id });
    if (sent.kind === 'done') newest.current = sent.answer.version;
  }, [id]);

  const flush = useCallback(async (): Promise<void> => {
    if (flushing.current) return;
    flushing.current = true;
    try {
      for (let waiting = waitingNow(); waiting.length > 0; waiting = waitingNow()) {
        const [entry, ...rest] = waiting as [NotYetSent, ...NotYetSent[]];
        const sent = await post(entry, newest.current);
        if (sent.kind === 'refused' && entry.wasStopped && sent.code !== NO_ANSWER) {
          // It changes nothing, whoever recorded what meanwhile: after that it is told again.
          if (sent.code === 'version-conflict') return await lookAgain();
          newest.current = Number(sent.answer['version'] ?? newest.current);
          keepNotYetSent(key, rest);
          if (rest.length === 0) look();
          continue;
        }
        if (sent.kind === 'refused') {
          // One the server has already, and of which only the answer was lost, is answered as the first time.
          if (sent.code !== NO_ANSWER)
            setConflict({
              kind: sent.code === 'version-conflict' ? 'behind' : 'refused',
              sentence: sent.sentence,
              entry,
            });
          return;
        }
        newest.current = sent.answer.version ?? newest.current;
        keepNotYetSent(key, rest);
        if (rest.length === 0) {
          tell('Sent: everything that was done here is recorded.');
          look();
        }
      }
    } finally {
      flushing.current = false;
    }
  }, [key, waitingNow, post, look, lookAgain]);

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
      act: newId(),
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
          newest.current = sent.answer.version ?? newest.current;
          look();
          return true;
        }
        if (sent.kind === 'refused' && Array.isArray(sent.answer['interlocks'])) {
          newest.current = Number(sent.answer['version'] ?? newest.current);
          setStopped({ step: step.id, evidence, interlocks: sent.answer['interlocks'] as Interlock[] });
          look();
          return false;
        }
        if (sent.code !== NO_ANSWER) {
          if (sent.code === 'version-conflict') look();
          setFault(sent.sentence);
          return false;
        }
      }
      // No network: the same model decides here.
      const own = await loadModel().catch(() => null);
      if (own === null) {
        setFault(
          'The server is not reached, and this page has not all of itself here. Nothing was kept: do not go on, and open it again where there is a network.',
        );
        return false;
      }
      const { world } = own.workedHere(recorded, waitingNow());
      const seen = own.stepHere(world, loose, { plan, step: step.id, evidence, happenedAt: entry.happenedAt });
      if (isRefusal(seen)) {
        setFault(seen.sentence);
        return false;
      }
      if (seen.kind === 'stopped') {
        setStopped({ step: step.id, evidence, interlocks: seen.interlocks });
        keepNotYetSent(key, [...waitingNow(), { ...entry, wasStopped: true }]);
        return false;
      }
      keepNotYetSent(key, [...waitingNow(), entry]);
      return true;
    } finally {
      setBusy(false);
    }
  };

  /** Anything else that is sent of the plan; needs the network. */
  const change = async (
    sending: (expectedVersion: number) => Promise<Sent<object>>,
    said: string,
  ): Promise<boolean> => {
    setBusy(true);
    setFault(null);
    const sent = await sending(newest.current);
    setBusy(false);
    if (sent.kind === 'refused') {
      setFault(sent.sentence);
      if (sent.code === 'version-conflict') look();
      return false;
    }
    if ('version' in sent.answer && typeof sent.answer.version === 'number') newest.current = sent.answer.version;
    tell(said);
    look();
    return true;
  };

  /** A person decides over a conflict: after what somebody else recorded, or not at all. */
  const decide = async (how: 'after' | 'drop'): Promise<void> => {
    if (!conflict) return;
    setConflict(null);
    if (how === 'drop') {
      keepNotYetSent(key, []);
      look();
      return;
    }
    await lookAgain();
    await flush();
  };

  // What waits here is not counted in yet: nothing is confirmed onto that.
  return {
    unit: here?.unit ?? unit,
    others: here?.others ?? others,
    run: here?.run ?? run,
    queue,
    busy: busy || here === null,
    fault,
    stopped,
    conflict,
    isLooking,
    look,
    confirm,
    change,
    decide,
    clear: () => (setFault(null), setStopped(null)),
  };
}
