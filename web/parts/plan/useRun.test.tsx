/** @jest-environment jsdom */
import { beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, renderHook, waitFor } from '@testing-library/react';
import plain from '~/core/platform/profiles/plain.json' with { type: 'json' };
import type { PlanStep, StepEvidence } from '~/core/plan/plan';
import { expectedEvidence } from '~/core/plan/engine/dryRun';
import { failed, four, made, replace } from '~/core/plan/makers/testReplace';
import { startPlan } from '~/core/plan/run/startPlan';
import type { PlanRun } from '~/core/planRun/planRun';
import { nextStep } from '~/core/planRun/progress';
import type { UnitState } from '~/core/unit/state';
import { isRefusal, type Refusal } from '~/core/value/refusal';
import { ahead } from '~/core/world/ahead';
import { planLedger, unitLedger } from '~/core/world/ledger';
import { emptyLedger, planIn, unitIn, worldOf } from '~/core/world/world';
import { queueNow, waitingKey } from './notYetSent';

const router = { refresh: jest.fn() };
jest.unstable_mockModule('next/navigation', () => ({ useRouter: () => router }));
const { useRun } = await import('./useRun');

const KEY = waitingKey('u', 'r');
const { unit: thin } = made(plain, four, 'parity-1', [failed]);
const world = worldOf([
  { ...emptyLedger(unitLedger('u')), state: thin },
  { ...emptyLedger(planLedger('r')), state: null },
]);
/** What the model says of a plan that can be begun. */
function right<T extends object>(answer: T): Exclude<T, Refusal> {
  if (isRefusal(answer)) throw new Error(answer.sentence);
  return answer as Exclude<T, Refusal>;
}
const begun = right(startPlan(world, 'r', ['u'], replace(thin)));
const after = right(ahead(world, begun.entries, '2026-01-01T00:00:00.000Z'));
const [unit, run] = [unitIn(after, 'u') as UnitState, planIn(after, 'r') as PlanRun];

interface Answer {
  readonly status: number;
  readonly body: object;
}
/** What the server answers, one after the other; `null`: it is not reached, as is everything after the last. */
let answers: (Answer | null)[] = [];
const bodies: { readonly act: string; readonly step: string; readonly expectedVersion: number }[] = [];

beforeEach(() => {
  localStorage.clear();
  router.refresh.mockClear();
  [answers, bodies.length] = [[], 0];
  globalThis.fetch = jest.fn<typeof fetch>((_path, init) => {
    if (init?.method === 'POST') bodies.push(JSON.parse(String(init.body)) as (typeof bodies)[number]);
    const answer = answers.shift() ?? null;
    return answer === null
      ? Promise.reject(new TypeError('no network'))
      : Promise.resolve({
          ok: answer.status < 300,
          status: answer.status,
          json: () => Promise.resolve(answer.body),
        } as Response);
  });
});

const opened = () => renderHook(() => useRun({ id: 'u', version: 7, unit, plan: 'r', run, loose: [], others: {} }));
type Opened = ReturnType<typeof opened>;
const confirm = async ({ result }: Opened, evidence?: StepEvidence): Promise<boolean> => {
  const step = nextStep(result.current.run) as PlanStep;
  let isDone = false;
  await act(async () => {
    isDone = await result.current.confirm(step, evidence ?? expectedEvidence(step, new Date().toISOString()));
  });
  return isDone;
};
const online = (): Promise<void> => act(() => Promise.resolve(void window.dispatchEvent(new Event('online'))));

describe('useRun', () => {
  it('goes on without a network, by the same model, and sends in order, each once, when there is one', async () => {
    const hook = opened();
    const first = nextStep(hook.result.current.run) as PlanStep;
    expect(await confirm(hook)).toBe(true);
    expect(Object.keys(hook.result.current.run.done)).toEqual([first.id]);
    const second = nextStep(hook.result.current.run) as PlanStep;
    expect(await confirm(hook)).toBe(true);
    expect(queueNow(KEY).map(({ step }) => step)).toEqual([first.id, second.id]);
    const acts = queueNow(KEY).map(({ act: id }) => id);

    bodies.length = 0;
    answers = [
      { status: 201, body: { version: 8 } },
      { status: 201, body: { version: 9 } },
    ];
    await online();
    await waitFor(() => expect(queueNow(KEY)).toEqual([]));
    expect(bodies.map(({ act: id, step, expectedVersion }) => [id, step, expectedVersion])).toEqual([
      [acts[0], first.id, 7],
      [acts[1], second.id, 8],
    ]);
    expect(router.refresh).toHaveBeenCalled();
  });

  it('has what waits again after a reload, and counts it in', async () => {
    const before = opened();
    await confirm(before);
    before.unmount();
    const again = opened();
    await waitFor(() => expect(Object.keys(again.result.current.run.done)).toHaveLength(1));
    expect(again.result.current.queue).toHaveLength(1);
  });

  it('keeps nothing of a step the model stops or refuses without a network', async () => {
    const hook = opened();
    const { steps } = run.plan;
    for (const { asks } of steps.slice(
      0,
      steps.findIndex(({ asks: of }) => of.kind === 'serial'),
    )) {
      expect([asks.kind, await confirm(hook)]).toEqual([asks.kind, true]);
    }
    const waiting = queueNow(KEY).length;
    // The serial of a drive that is well.
    expect(await confirm(hook, { kind: 'serial', serial: 'D-1' })).toBe(false);
    expect(hook.result.current.stopped ?? hook.result.current.fault).not.toBeNull();
    // The try waits to be told, and counts for nothing.
    expect(queueNow(KEY).map(({ wasStopped }) => wasStopped === true)).toEqual([
      ...Array.from({ length: waiting }, () => false),
      true,
    ]);
    expect(Object.keys(hook.result.current.run.done)).toHaveLength(waiting);
  });

  it('tells what was tried wrongly without a network once there is one, in its turn, and goes on after it', async () => {
    const hook = opened();
    const { steps } = run.plan;
    const first = steps.findIndex(({ asks: of }) => of.kind === 'serial');
    for (let i = 0; i < first; i++) await confirm(hook);
    await confirm(hook, { kind: 'serial', serial: 'D-1' });
    expect(await confirm(hook)).toBe(true);
    bodies.length = 0;
    const stop = (version: number) => ({
      status: 422,
      body: { code: 'wrong-serial', detail: 'No.', interlocks: [], version },
    });
    const conflict = { status: 409, body: { code: 'version-conflict', detail: 'Somebody was first.' } };
    answers = [
      ...Array.from({ length: first }, (_, i) => ({ status: 201, body: { version: 8 + i } })),
      conflict,
      { status: 200, body: { version: 20 } },
    ];
    await online();
    await waitFor(() => expect(queueNow(KEY)).toHaveLength(2));
    expect(hook.result.current.conflict).toBeNull();
    bodies.length = 0;
    answers = [stop(21), { status: 201, body: { version: 22 } }];
    await online();
    await waitFor(() => expect(queueNow(KEY)).toEqual([]));
    expect(
      bodies.map((body) => [body.expectedVersion, (body as { wasStopped?: boolean }).wasStopped === true]),
    ).toEqual([
      [20, true],
      [21, false],
    ]);
  });

  it('asks a person where somebody recorded something meanwhile, and sends after it with the version it has by then', async () => {
    const hook = opened();
    await confirm(hook);
    answers = [{ status: 409, body: { code: 'version-conflict', detail: 'Somebody was first.' } }];
    await online();
    await waitFor(() => expect(hook.result.current.conflict?.kind).toBe('behind'));
    expect(queueNow(KEY)).toHaveLength(1);

    bodies.length = 0;
    answers = [
      { status: 200, body: { version: 12 } },
      { status: 201, body: { version: 13 } },
    ];
    await act(() => hook.result.current.decide('after'));
    expect([hook.result.current.conflict, queueNow(KEY), bodies[0]?.expectedVersion]).toEqual([null, [], 12]);
  });

  it('asks nobody again where nothing but the percent of some work was heard meanwhile', async () => {
    const hook = opened();
    const behind = (onlyHeard: boolean) => ({
      status: 409,
      body: { code: 'version-conflict', detail: 'In the meantime.', onlyHeard, ledgers: [{ unit: 'u', version: 14 }] },
    });
    answers = [behind(true), { status: 201, body: { version: 15 } }];
    bodies.length = 0;
    expect(await confirm(hook)).toBe(true);
    expect([hook.result.current.fault, bodies.map(({ expectedVersion }) => expectedVersion).at(-1)]).toEqual([
      null,
      14,
    ]);
    // Anything else is for a person.
    answers = [behind(false)];
    expect(await confirm(hook)).toBe(false);
    expect(hook.result.current.fault).toBe('In the meantime.');
  });

  it('lets go of what the server refuses only when a person says so', async () => {
    const hook = opened();
    await confirm(hook);
    await confirm(hook);
    answers = [{ status: 422, body: { code: 'wrong-step', detail: 'That step is not the next.' } }];
    await online();
    await waitFor(() => expect(hook.result.current.conflict?.sentence).toBe('That step is not the next.'));
    expect(queueNow(KEY)).toHaveLength(2);
    await act(() => hook.result.current.decide('drop'));
    expect([queueNow(KEY), Object.keys(hook.result.current.run.done)]).toEqual([[], []]);
  });

  it('shows what the server stops, and keeps nothing of it', async () => {
    const interlock = {
      kind: 'interlock',
      code: 'too-early',
      sentence: 'Not yet.',
      back: '',
      serial: '',
      mayOverride: false,
    };
    answers = [{ status: 409, body: { code: 'stopped', detail: 'Stopped.', interlocks: [interlock], version: 8 } }];
    const hook = opened();
    expect(await confirm(hook)).toBe(false);
    expect([hook.result.current.stopped?.interlocks, queueNow(KEY)]).toEqual([[interlock], []]);
  });
});
