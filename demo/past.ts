import { randomUUID } from 'node:crypto';
import { expectedEvidence } from '../core/plan/engine/dryRun';
import { actingOn } from '../core/plan/makers/makePlan';
import { replacePlan, type ReplaceWish } from '../core/plan/makers/replace';
import { doStep } from '../core/plan/run/doStep';
import { startPlan } from '../core/plan/run/startPlan';
import type { UnitEvent } from '../core/unit/event';
import type { UnitState } from '../core/unit/state';
import { isRefusal, type Refusal } from '../core/value/refusal';
import type { Act, ActEntry, Actor } from '../core/world/act';
import { unitLedger } from '../core/world/ledger';
import { planIn } from '../core/world/world';
import type { App } from '../service/app';
import { inTransaction } from '../service/ledgers/inTransaction';
import { commandIn, type Command } from '../service/ledgers/command';
import { recordAct } from '../service/ledgers/recordAct';
import { unitById } from '../store/units';

/** Who has recorded the demo's past. */
export const DEMO: Actor = { kind: 'demo', id: null, name: 'Demo' };

/** Something that happened to a unit, at its time. */
export interface Past {
  readonly happenedAt: string;
  readonly events: readonly UnitEvent[];
}

/** A replacement by a plan: begun, and so many of its first steps done, each at its time. */
export interface Replacing {
  readonly startedAt: string;
  readonly wish: ReplaceWish;
  readonly steps: readonly string[];
}

/**
 * Records a unit's past in the order it happened, as everybody records: by acts, and what is done in a plan by its steps,
 * with the evidence they ask for.
 *
 * @returns a refusal when it is there already
 */
export async function recordPast(
  app: App,
  unit: string,
  past: readonly Past[],
  replacing: Replacing | undefined,
): Promise<Refusal | undefined> {
  const plan = randomUUID();
  const doings: { readonly at: string; readonly run: (isLast: boolean) => Promise<Refusal | undefined> }[] = past.map(
    ({ happenedAt, events }) => ({
      at: happenedAt,
      run: (isLast) =>
        recordAt(
          app,
          happenedAt,
          events.map((event) => ({ ledger: unitLedger(unit), event })),
          isLast,
        ),
    }),
  );
  if (replacing) {
    doings.push({ at: replacing.startedAt, run: () => begin(app, unit, plan, replacing) });
    for (const [n, at] of replacing.steps.entries()) doings.push({ at, run: () => step(app, unit, plan, n, at) });
  }
  doings.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
  for (const [i, { run }] of doings.entries()) {
    const no = await run(i === doings.length - 1);
    if (no) return no;
  }
  return undefined;
}

/** Written down as it happened; the last of it now, by which a demo of an earlier day is told. */
export async function recordAt(
  app: App,
  happenedAt: string,
  entries: readonly ActEntry[],
  isNow: boolean,
): Promise<Refusal | undefined> {
  const act: Act = { kind: 'act', id: randomUUID(), by: DEMO, happenedAt, expects: [], entries };
  const done = await recordAct(app.db, act, isNow ? {} : { recordedAt: happenedAt });
  return isRefusal(done) ? done : undefined;
}

async function stateOf(app: App, unit: string): Promise<UnitState> {
  const stored = await unitById(app.db, unit);
  if (!stored) throw new Error('The demo has lost a unit.');
  return stored.state;
}

async function begin(
  app: App,
  unit: string,
  plan: string,
  { startedAt, wish }: Replacing,
): Promise<Refusal | undefined> {
  const body = replacePlan(await stateOf(app, unit), wish);
  if (isRefusal(body)) return body;
  return carryOut(app, unit, plan, startedAt, (world) => startPlan(world, plan, [unit], actingOn(body, unit)));
}

async function step(app: App, unit: string, plan: string, n: number, at: string): Promise<Refusal | undefined> {
  return carryOut(app, unit, plan, at, (world) => {
    const of = planIn(world, plan)?.plan.steps[n];
    if (!of) throw new Error('The plan of the demo has fewer steps.');
    return doStep(world, { plan, step: of.id, evidence: expectedEvidence(of, at), happenedAt: at, isOwner: false });
  });
}

async function carryOut(
  app: App,
  unit: string,
  plan: string,
  happenedAt: string,
  make: Command['make'],
): Promise<Refusal | undefined> {
  const command = { id: randomUUID(), by: DEMO, happenedAt, now: happenedAt, plan, units: [unit], expects: [], make };
  const done = await inTransaction(app.db, (work) => commandIn(work, command));
  if (isRefusal(done)) return done;
  if (done.kind === 'stopped')
    throw new Error(`A step of the demo is stopped: ${done.interlocks.map(({ sentence }) => sentence).join(' ')}`);
  return undefined;
}
