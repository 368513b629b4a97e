import { join } from 'node:path';
import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import type { MadeAnswer } from '../door/madeAnswer';
import type { ReckoningAsked, Reckonings } from './reckoningThread';

type Made<N extends keyof Reckonings> = Exclude<ReturnType<Reckonings[N]>, Refusal>;

/** Where what takes long is reckoned, so that nobody else waits for it. */
export interface Threads {
  /** Refused when it takes too long, or the same person asks for too much at once; ended when nobody waits for it any more. */
  readonly reckon: <N extends keyof Reckonings>(
    name: N,
    body: Parameters<Reckonings[N]>[0],
    profile: Parameters<Reckonings[N]>[1],
    asked: { readonly for: string; readonly signal: AbortSignal },
  ) => Promise<MadeAnswer<Made<N>> | Refusal>;
  readonly end: () => Promise<void>;
}

const DEADLINE_MS = 30_000;
/** Of one person: one is reckoned while the others wait, and so many may wait. */
const MOST_WAITING = 120;
const MOST_MEGABYTES = 1024;
const IDLE_MS = 60_000;

/**
 * @param bundle the thread's program, built; left out, it is read from its source
 */
export function openThreads(root: string, bundle?: string): Threads {
  let pool: Piscina | undefined;
  const opened = (): Piscina =>
    (pool ??= new Piscina({
      ...(bundle === undefined
        ? {
            filename: join(root, 'service', 'bench', 'reckoningThread.ts'),
            execArgv: ['--import', 'tsx', '--no-warnings'],
          }
        : { filename: bundle, execArgv: [] }),
      minThreads: 0,
      maxThreads: Math.max(1, Math.floor(availableParallelism() / 2)),
      idleTimeout: IDLE_MS,
      // Whoever only looks something up goes first.
      niceIncrement: 10,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
    }));
  const lines = new Map<string, { readonly waiting: number; readonly last: Promise<unknown> }>();

  /** One after the other for each person, whoever else is waiting. */
  async function inLine<T>(person: string, work: () => Promise<T>): Promise<T | Refusal> {
    const line = lines.get(person) ?? { waiting: 0, last: Promise.resolve() };
    if (line.waiting >= MOST_WAITING)
      return refusal(
        'too-much-at-once',
        'So much of yours is being reckoned already: wait for its answers, then ask again.',
      );
    const mine = line.last.then(work, work);
    lines.set(person, { waiting: line.waiting + 1, last: mine.catch(() => undefined) });
    try {
      return await mine;
    } finally {
      const { waiting, last } = lines.get(person) as { waiting: number; last: Promise<unknown> };
      if (waiting === 1) lines.delete(person);
      else lines.set(person, { waiting: waiting - 1, last });
    }
  }

  return {
    reckon: (name, body, profile, asked) =>
      inLine(asked.for, async () => {
        if (asked.signal.aborted) return nobodyWaits;
        const deadline = AbortSignal.timeout(DEADLINE_MS);
        try {
          const made = (await opened().run({ name, body, profile } satisfies ReckoningAsked, {
            signal: AbortSignal.any([asked.signal, deadline]),
          })) as string | Refusal;
          return isRefusal(made) ? made : { kind: 'made-answer', json: made };
        } catch (error) {
          if (asked.signal.aborted) return nobodyWaits;
          if (deadline.aborted || (error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
            return refusal(
              'too-long',
              'This would take too long to reckon: ask with fewer drives, or name the schemes and the width of the groups.',
            );
          throw error;
        }
      }),
    end: async () => {
      await pool?.destroy();
    },
  };
}

const nobodyWaits = refusal('nobody-waits', 'Whoever asked is gone.');
