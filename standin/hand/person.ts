import { whichSerial } from '../../core/drive/whichSerial';
import { actingOn, makePlan } from '../../core/plan/makers/makePlan';
import { sizeFacts } from '../../core/plan/engine/driveFacts';
import { jobEnding } from '../../core/plan/engine/jobEnding';
import { isHeard, whyFrozen } from '../../core/plan/engine/frozen';
import type { PlanBody, PlanStep, StepEvidence } from '../../core/plan/plan';
import { doStep } from '../../core/plan/run/doStep';
import { endPlan } from '../../core/plan/run/endPlan';
import { skipStep } from '../../core/plan/run/leaveStep';
import { startPlan } from '../../core/plan/run/startPlan';
import { nextStep } from '../../core/planRun/progress';
import type { PlanRun } from '../../core/planRun/planRun';
import type { UnitEvent } from '../../core/unit/event';
import { isDown, marginOfPool } from '../../core/unit/margin';
import { eventsOfPoolSaid, POOL_SAYS_WORDS } from '../../core/unit/poolSaid';
import { driveInBay, membersOf, poolsOf, type UnitState } from '../../core/unit/state';
import { isRefusal, type Refusal } from '../../core/value/refusal';
import { seeded } from '../../core/value/seeded';
import type { ActEntry } from '../../core/world/act';
import { unitLedger } from '../../core/world/ledger';
import { record } from '../../core/world/record';
import { ledgerIn, planIn, unitIn, withLedgers, worldOf, type World } from '../../core/world/world';
import { lived, done as doneTo, truthOf, type Truth } from '../truth';
import { pageOf, pulled, pushed, restarted, switched, told } from './behaves';

/**
 * A person who does exactly what the screen says, with the errors people make, at a unit whose insides we know: works a
 * replacement from its structured steps, errs by a seed, and answers truly what is then seen. It has no rule of its own.
 */

export const U = 'aaaaaaaa-aaaa-4aaa-8aaa-aaaaaaaaaaaa';
const HOUR = 3600e3;

export const ERRORS = [
  'none',
  'neighbour',
  'neighbour-twice',
  'misread',
  'second-failure',
  'power-cut',
  'too-early',
  'too-small',
  'unreadable-sector',
  'old-page',
  'network-gone',
  'cable',
] as const;
export type Err = (typeof ERRORS)[number];

export interface Life {
  readonly seed: number;
  readonly err: Err;
  /** Set where something is wrong: what, in words. */
  readonly fault: string | null;
  readonly record: UnitState;
  readonly truth: UnitState;
  /** More failed than the pool survives, of its own accord. */
  readonly beyond: boolean;
  /** It stopped on the way and came back. */
  readonly wasDown: boolean;
  readonly plans: readonly string[];
  readonly steps: number;
}

/** So many steps are worked without a network. */
const LONGEST_GONE = 4;
/** As many steps no life needs: whoever takes more goes in circles. */
const MOST_STEPS = 400;
const MOST_PLANS = 8;

export class Stuck extends Error {}

/** Hands, a pair of eyes, and the record they answer to. */
export class Hand {
  world: World;
  truth: Truth;
  at: number;
  acts = 0;
  steps = 0;
  wasDown = false;
  /** A drive failed of its own accord where no more could be lost. */
  isBeyond = false;
  erred = 0;
  /** Set while there is no network: the record as it was last seen, and what waits to be sent. */
  gone: {
    readonly server: World;
    readonly kept: { readonly sent: Parameters<typeof doStep>[1]; readonly wasStopped: boolean }[];
  } | null = null;
  readonly plans: string[] = [];
  readonly chance: () => number;
  readonly remembers: boolean;

  constructor(
    readonly events: readonly UnitEvent[],
    readonly err: Err,
    seed: number,
    start: string,
  ) {
    this.chance = seeded(seed);
    this.remembers = this.chance() < 0.5;
    this.at = Date.parse(start);
    this.world = worldOf([]);
    this.write(events.map((event) => ({ ledger: unitLedger(U), event })));
    this.truth = truthOf(this.unit, {}, seed, this.at);
    // What fails here fails by the life's own errors alone.
    this.truth = {
      ...this.truth,
      drives: Object.fromEntries(
        Object.entries(this.truth.drives).map(([serial, one]) => [serial, { ...one, signsAt: null, failsAt: 1e9 }]),
      ),
    };
  }

  get unit(): UnitState {
    return unitIn(this.world, U) as UnitState;
  }
  get now(): string {
    return new Date(this.at).toISOString();
  }

  write(entries: readonly ActEntry[], happenedAt = this.now): void {
    if (entries.length === 0) return;
    const made = record(this.world, {
      kind: 'act',
      id: `act-${String(this.acts++)}`,
      by: { kind: 'person', id: null, name: 'Hand' },
      happenedAt,
      expects: [],
      entries,
    } as never);
    if (isRefusal(made)) throw new Stuck(`The record refuses: ${made.sentence}`);
    this.world = withLedgers(this.world, made.ledgers);
  }
  wait(hours: number): void {
    this.at += hours * HOUR;
    this.truth = lived(this.truth, this.at);
  }

  /** A drive dies, and it stands on the page. */
  fails(serial: string): void {
    this.truth = told(this.truth, { kind: 'drive-failed', serial });
    this.write([{ ledger: unitLedger(U), event: { kind: 'drive-failed', serial } }]);
  }

  /** Begins a plan, ends the one before it, and works it until it is done or must not go on. */
  work(body: PlanBody | Refusal, instead: readonly string[] = []): 'finished' | 'frozen' {
    if (isRefusal(body)) throw new Stuck(`No plan: ${body.sentence}`);
    if (this.plans.length >= MOST_PLANS) throw new Stuck('Plan after plan, and no end.');
    const plan = `bbbbbbbb-bbbb-4bbb-8bbb-${String(this.plans.length).padStart(12, '0')}`;
    this.plans.push(body.job);
    this.write(startPlan(this.world, plan, [U], actingOn(body, U), instead).entries);
    for (;;) {
      const run = planIn(this.world, plan);
      const step = run && nextStep(run);
      if (!run || !step) break;
      if (this.steps++ > MOST_STEPS) throw new Stuck(`It stays at “${step.title}”.`);
      this.wait(0.05);
      if (this.step(plan, step) === 'frozen') {
        this.returns();
        return 'frozen';
      }
    }
    this.returns();
    this.write((endPlan(this.world, { plan, how: 'finished' }) as { entries: readonly ActEntry[] }).entries);
    return 'finished';
  }

  /** Does one step as it says. */
  step(plan: string, step: PlanStep): 'done' | 'frozen' {
    // What stands in red above a step is read before a hand moves.
    const run = planIn(this.world, plan);
    if (run && whyFrozen(this.unit, run.plan) && !isHeard(step)) return 'frozen';
    if (this.err === 'network-gone' && this.erred === 0 && this.gone === null && this.chance() < 0.3) this.leaves();
    const evidence = this.hands(step);
    for (const one of evidence) {
      const made = this.sends(plan, step, one);
      if (made.kind === 'made') continue;
      const codes = made.interlocks.map(({ code }) => code);
      if (codes.some((code) => FREEZES.has(code))) return 'frozen';
      this.stopped(plan, step, one, codes);
    }
    return 'done';
  }

  /** A step goes to the record; without a network it is judged here, kept, and sent when there is one. */
  sends(plan: string, step: PlanStep, evidence: StepEvidence): Exclude<ReturnType<typeof doStep>, Refusal> {
    const sent = { plan, step: step.id, evidence, happenedAt: this.now, isOwner: false };
    const made = doStep(this.world, sent);
    if (isRefusal(made) && step.maySkip === true) {
      const skipped = skipStep(this.world, { plan, step: step.id, reason: made.sentence.slice(0, 200) });
      if (isRefusal(skipped)) throw new Stuck(`“${step.title}” is neither done nor left out: ${skipped.sentence}`);
      this.returns();
      this.write(skipped.entries);
      return skipped;
    }
    if (isRefusal(made)) throw new Stuck(`“${step.title}” refuses ${JSON.stringify(evidence)}: ${made.sentence}`);
    this.write(made.entries);
    if (this.gone) {
      this.gone.kept.push({ sent, wasStopped: made.kind === 'stopped' });
      if (this.gone.kept.length >= LONGEST_GONE) this.returns();
    }
    return made;
  }

  /** The network goes: what is recorded meanwhile is not known here, and what is done here is not known there. */
  leaves(): void {
    this.erred++;
    this.gone = { server: this.world, kept: [] };
  }

  /** It is back: what was done is sent in its order, each judged again as it was when it was done. */
  returns(): void {
    if (!this.gone) return;
    const { server, kept } = this.gone;
    this.gone = null;
    this.world = server;
    for (const { sent, wasStopped } of kept) {
      const made = doStep(this.world, sent);
      if (isRefusal(made)) throw new Stuck(`Sent afterwards “${sent.step}” is refused: ${made.sentence}`);
      if ((made.kind === 'stopped') !== wasStopped)
        throw new Stuck(`Sent afterwards “${sent.step}” is judged otherwise.`);
      this.write(made.entries, sent.happenedAt);
    }
  }

  /** What is stopped is put right as the sentence says. */
  stopped(plan: string, step: PlanStep, evidence: StepEvidence, codes: readonly string[]): void {
    const pull = step.does.find((one) => one.kind === 'pull-drive');
    if (codes.includes('wrong-serial') && pull && evidence.kind === 'serial') {
      const serial = whichSerial(evidence.serial, Object.keys(this.unit.drives));
      const there = serial === null ? undefined : this.unit.drives[serial];
      const isOut =
        serial !== null && Object.values(this.truth.unit.drives).find((one) => one.serial === serial)?.bay === null;
      if (serial === null || there?.bay == null) return;
      if (isOut) {
        this.truth = pushed(this.truth, there.bay, serial, there.bytes, this.remembers);
        if (this.unit.power === 'off') return;
        const pool = poolsOf(this.truth.unit)[0];
        const before = poolsOf(this.unit)[0];
        // Some families write at once what is pushed into a thin pool, an idle drive too.
        const isWritten = Object.values(this.truth.unit.jobs).some(({ onto }) => onto === serial);
        const says =
          pool && isDown(pool)
            ? 'stopped'
            : isWritten
              ? 'rebuilds'
              : pool && before && pool.missing.length > before.missing.length
                ? 'thinner'
                : 'as-before';
        this.sends(plan, step, { kind: 'wrong-out', serial, says });
      }
      return;
    }
    // Early: the page is looked at, later.
    if (codes.includes('too-early')) return this.wait(6);
    if (codes.includes('wrong-serial')) return;
    throw new Stuck(`“${step.title}” stops by ${codes.join(', ')}, and nothing else is left to do.`);
  }

  /** What hands do at a step, and what is then answered. */
  hands(step: PlanStep): readonly StepEvidence[] {
    const { asks } = step;
    const errs = this.err !== 'none' && this.erred < (this.err === 'neighbour-twice' ? 2 : 1);
    for (const one of step.does) {
      if (one.kind === 'switch-power') this.truth = switched(this.truth, one.on);
      if (one.kind === 'release-spare')
        this.truth = told(this.truth, { kind: 'spare-released', pool: one.pool, serial: one.serial });
      const spare = one.kind === 'assign-spare' ? driveInBay(this.truth.unit, one.bay)?.serial : undefined;
      if (one.kind === 'assign-spare' && spare !== undefined)
        this.truth = told(this.truth, { kind: 'spare-assigned', pool: one.pool, serial: spare });
      if (one.kind === 'take-out-of-service')
        this.truth = told(this.truth, { kind: 'drive-taken-out-of-service', serial: one.serial });
    }
    const pull = step.does.find((one) => one.kind === 'pull-drive');
    const fit = step.does.find((one) => one.kind === 'fit-drive');
    const take = step.does.find((one) => one.kind === 'take-drive');
    const ends = step.does.find((one) => one.kind === 'finish-rebuild');
    if (asks.kind === 'copy') return [{ kind: 'copy', none: { why: 'the hand has none' } }];
    if (asks.kind === 'number') return [{ kind: 'number', number: 9000 }];
    if (asks.kind === 'text') return [{ kind: 'text', text: 'as it was' }];
    if (asks.kind === 'fates')
      return [{ kind: 'fates', fates: asks.serials.map((serial) => ({ serial, goes: { kind: 'stays' } })) }];
    if (asks.kind === 'picture') return [{ kind: 'picture', paper: U }];
    if (pull?.kind === 'pull-drive') {
      if (errs && this.err === 'cable') this.knocksCable();
      const meant = this.truth.unit.drives[pull.serial];
      const bay = step.bay ?? meant?.bay ?? '';
      if (errs && (this.err === 'neighbour' || this.err === 'neighbour-twice')) {
        const others = Object.values(this.truth.unit.drives).filter((one) => one.bay !== null && one.bay !== bay);
        const other = others[Math.floor(this.chance() * others.length)];
        if (other?.bay != null) {
          this.erred++;
          this.truth = pulled(this.truth, other.bay);
          return [{ kind: 'serial', serial: other.serial }];
        }
      }
      if (errs && this.err === 'misread') {
        this.erred++;
        return [{ kind: 'serial', serial: `${pull.serial}X` }];
      }
      const there = driveInBay(this.truth.unit, bay);
      if (!there) throw new Stuck(`“${step.title}”: the bay is empty.`);
      this.truth = pulled(this.truth, bay);
      return [{ kind: 'serial', serial: there.serial }];
    }
    if (fit?.kind === 'fit-drive') {
      const serial = fit.drive.serial ?? this.fresh();
      this.truth = pushed(this.truth, fit.drive.bay, serial, fit.drive.bytes, this.remembers);
      return [{ kind: 'serial', serial, drive: sizeFacts(fit.drive) }];
    }
    if (take?.kind === 'take-drive')
      return [{ kind: 'serial', serial: take.drive.serial ?? this.fresh(), drive: sizeFacts(take.drive) }];
    const start = step.does.find((one) => one.kind === 'start-rebuild');
    if (start?.kind === 'start-rebuild') {
      const onto = driveInBay(this.truth.unit, start.bay)?.serial ?? '';
      const isBegun = Object.values(this.truth.unit.jobs).some((job) => job.onto === onto);
      if (!isBegun)
        this.truth = told(this.truth, {
          kind: 'job-started',
          job: `work-${String(this.steps)}`,
          task: start.task,
          pool: start.pool,
          replaces: start.replaces,
          onto,
        });
      return [asks.kind === 'serial' ? { kind: 'serial', serial: onto } : { kind: 'tick' }];
    }
    if (ends) return this.waits(errs);
    const heard = step.does.find((one) => one.kind === 'hear-pool');
    if (heard?.kind === 'hear-pool') {
      if (errs && this.err === 'old-page') {
        this.erred++;
        return [{ kind: 'choice', choice: POOL_SAYS_WORDS.stopped }];
      }
      this.truth = switched(this.truth, true);
      return [{ kind: 'choice', choice: POOL_SAYS_WORDS[pageOf(this.truth, heard.pool)] }];
    }
    if (asks.kind === 'choice') {
      const ended = step.does.find((one) => one.kind === 'end-rescue');
      const pool = ended?.kind === 'end-rescue' ? this.truth.unit.pools[ended.pool] : undefined;
      return [{ kind: 'choice', choice: asks.options.at(pool && isDown(pool) ? -1 : 0) ?? '' }];
    }
    if (step.does.some(({ kind }) => kind === 'see-again'))
      return [{ kind: 'serial', serial: asks.kind === 'serial' ? (asks.expects ?? '') : '' }];
    if (asks.kind === 'serial') return [{ kind: 'serial', serial: asks.expects ?? this.fresh() }];
    if (asks.kind === 'page') return [{ kind: 'page', says: 'done', again: true }];
    return [{ kind: 'tick' }];
  }

  /** Waits for a rebuild, with what happens meanwhile; its page says when it is done. */
  waits(errs: boolean): readonly StepEvidence[] {
    if (errs && this.err === 'too-early') {
      this.erred++;
      return [{ kind: 'tick' }];
    }
    if (errs && this.err === 'old-page') {
      // It shows what it showed an hour ago; looked at again it is as it is.
      this.erred++;
      return [{ kind: 'page', says: 'working' }, ...this.waits(false)];
    }
    if (errs && this.err === 'unreadable-sector') {
      this.erred++;
      return this.meetsUnreadable();
    }
    if (errs && this.err === 'power-cut') {
      this.erred++;
      this.wait(2);
      this.truth = switched(switched(this.truth, false), true);
    }
    if (errs && this.err === 'second-failure') {
      this.erred++;
      this.wait(2);
      const well = Object.values(this.truth.unit.drives).filter(
        ({ bay, condition, serial }) =>
          bay !== null &&
          condition === 'well' &&
          !Object.values(this.truth.unit.jobs).some(({ onto }) => onto === serial),
      );
      const [other] = well.slice(Math.floor(this.chance() * well.length));
      if (other?.bay != null) {
        const after = doneTo(this.truth, { do: 'fail', bay: other.bay });
        if (!isRefusal(after)) this.truth = after;
        this.isBeyond = poolsOf(this.truth.unit).some(isDown);
        // It stands on the page, and is recorded as it is seen.
        this.write([
          { ledger: unitLedger(U), event: { kind: 'drive-failed', serial: other.serial, note: 'on its page' } },
        ]);
      }
    }
    for (let i = 0; i < 200 && Object.keys(this.truth.unit.jobs).length > 0; i++) this.wait(12);
    const pool = poolsOf(this.truth.unit)[0];
    return [{ kind: 'page', says: pool && isDown(pool) ? 'stopped' : 'done', again: true }];
  }

  /** The cable of the last box comes out behind the rack, and is put back: what each page says is recorded as it is seen. */
  knocksCable(): void {
    const [, box] = this.truth.unit.enclosures;
    if (!box) return;
    this.erred++;
    const { name: enclosure } = box;
    const seen = (event: UnitEvent): void => {
      this.truth = told(this.truth, event);
      this.write([{ ledger: unitLedger(U), event }]);
      this.wait(0.1);
    };
    const before = new Map(poolsOf(this.truth.unit).map(({ id, missing }) => [id, missing]));
    seen({ kind: 'enclosure-lost', enclosure });
    seen({ kind: 'enclosure-back', enclosure });
    for (const pool of poolsOf(this.truth.unit)) {
      // It takes them back whole by its own log; one that has stopped wants a restart for it.
      const serials = pool.missing.filter((serial) => before.get(pool.id)?.includes(serial) === false);
      if (isDown(pool)) this.truth = restarted(this.truth);
      else if (serials.length > 0) this.truth = told(this.truth, { kind: 'pool-restored', pool: pool.id, serials });
    }
    for (const pool of poolsOf(this.unit)) {
      const says = pageOf(this.truth, pool.id);
      this.write(eventsOfPoolSaid(this.unit, pool, says).map((event) => ({ ledger: unitLedger(U), event })));
    }
  }

  /** A sector of another member cannot be read while it is rebuilt: families give up, or go on without a file. */
  meetsUnreadable(): readonly StepEvidence[] {
    this.wait(3);
    const [job] = Object.values(this.truth.unit.jobs);
    if (!job || this.truth.unit.profile.rebuild.unreadableSector !== 'aborts') return this.waits(false);
    this.truth = told(this.truth, { kind: 'job-aborted', job: job.id });
    const onto = job.onto;
    // Started again in its page it reads past: what could not be read was copied off, and written anew.
    if (onto !== undefined)
      this.truth = told(this.truth, {
        kind: 'job-started',
        job: `again-${String(this.steps)}`,
        task: job.task,
        pool: job.pool,
        ...(job.replaces === undefined ? {} : { replaces: job.replaces }),
        onto,
      });
    return [{ kind: 'page', says: 'stopped' }, { kind: 'page', says: 'working' }, ...this.waits(false)];
  }

  /** Another drive is being written than the plan under way means: it is stopped, and the work runs to its end. */
  letsItEnd(): boolean {
    const over = Object.keys(this.unit.plans).filter(
      (plan) => whyFrozen(this.unit, (planIn(this.world, plan) as PlanRun).plan)?.code === 'another-takes-over',
    );
    for (const plan of over)
      this.write(
        (endPlan(this.world, { plan, how: 'stopped', note: 'n' }) as { entries: readonly ActEntry[] }).entries,
      );
    // Work that no plan waits for is heard to its end before another is made.
    const led = Object.keys(this.unit.plans).flatMap((plan) =>
      (planIn(this.world, plan) as PlanRun).plan.steps.flatMap((step) => jobEnding(this.unit, step)?.id ?? []),
    );
    const alone = Object.values(this.unit.jobs).filter(({ id }) => !led.includes(id));
    for (const { id, onto } of alone) {
      while (Object.values(this.truth.unit.jobs).some((job) => job.onto === onto)) this.wait(6);
      this.write([{ ledger: unitLedger(U), event: { kind: 'job-finished', job: id } }]);
    }
    if (over.length + alone.length === 0) return false;
    return true;
  }

  fresh(): string {
    return `NEW-${String(this.plans.length)}${String(this.steps).padStart(4, '0')}`;
  }
}

const FREEZES: ReadonlySet<string> = new Set(['pool-lost', 'another-failed', 'another-takes-over']);

/** Replaces whatever is missing or sick, and rescues what has stopped, until there is nothing left to do. */
export function putRight(hand: Hand, sick: string): void {
  let open: string[] = [];
  for (let turn = 0; ; turn++) {
    if (turn > MOST_PLANS * 2) throw new Stuck('Turn after turn, and no end.');
    const unit = hand.unit;
    const pool = poolsOf(unit)[0];
    if (!pool || pool.gone) break;
    const last = (): string[] => Object.keys(hand.unit.plans);
    if (isDown(pool)) {
      hand.wasDown = true;
      const history = ledgerIn(hand.world, unitLedger(U)).history ?? [];
      hand.work(makePlan('rescue', unit, { because: 'lost' }, history as never, () => U));
      continue;
    }
    open = last();
    if (hand.letsItEnd()) continue;
    const todo =
      pool.missing.find((serial) => unit.drives[serial]?.backIn === true) ??
      pool.missing[0] ??
      Object.values(unit.drives).find(
        ({ bay, sick: signs, serial }) =>
          bay !== null && signs !== undefined && serial === sick && membersOf(pool).includes(serial),
      )?.serial;
    if (todo === undefined) break;
    const running = open[0];
    const plan = running === undefined ? null : planIn(hand.world, running);
    const aboutIt = plan?.plan.job === 'replace' && hand.unit.plans[running as string]?.serials.includes(todo) === true;
    const [spare] = pool.spares.filter((serial) => unit.drives[serial]?.bay != null);
    const drive = { bytes: unit.drives[todo]?.bytes ?? 0, basis: 'exact' as const };
    const body =
      spare !== undefined && pool.missing.includes(todo)
        ? makePlan('spare-in', unit, { serial: todo, spare, drive }, [], () => U)
        : unit.drives[todo]?.backIn === true
          ? makePlan('came-back', unit, { serial: todo, how: 'rebuild' }, [], () => U)
          : makePlan(
              'replace',
              unit,
              { serial: todo, way: 'in-place', drive: { bytes: unit.drives[todo]?.bytes ?? 0, basis: 'exact' } },
              [],
              () => U,
            );
    if (aboutIt && running !== undefined) {
      // It goes on where it was.
      for (;;) {
        const run = planIn(hand.world, running);
        const step = run && nextStep(run);
        if (!run || !step) {
          hand.write(
            (endPlan(hand.world, { plan: running, how: 'finished' }) as { entries: readonly ActEntry[] }).entries,
          );
          break;
        }
        if (hand.steps++ > MOST_STEPS) throw new Stuck(`It stays at “${step.title}”.`);
        hand.wait(0.05);
        if (hand.step(running, step) === 'frozen') break;
      }
      hand.returns();
      if (Object.keys(hand.unit.plans).includes(running) && !isDown(poolsOf(hand.unit)[0] as never)) {
        // Frozen by another that is missing: that one is led by a plan of its own.
        hand.write(
          (endPlan(hand.world, { plan: running, how: 'stopped' }) as { entries: readonly ActEntry[] }).entries,
        );
      }
      continue;
    }
    hand.work(body, open);
  }
}

/** One life: a drive fails, and a person replaces it, whatever goes wrong, until there is nothing left to do. */
export function lifeOf(events: readonly UnitEvent[], err: Err, seed: number, start: string): Life {
  const hand = new Hand(events, err, seed, start);
  let fault: string | null = null;
  try {
    const members = Object.values(hand.unit.drives).filter(({ bay }) => bay !== null);
    const sick = members[Math.floor(hand.chance() * members.length)]?.serial ?? '';
    // It has failed, or shows signs.
    if (hand.chance() < 0.5) {
      hand.fails(sick);
    } else {
      hand.truth = told(hand.truth, { kind: 'drive-suspected', serial: sick, note: 'slow' });
      hand.write([{ ledger: unitLedger(U), event: { kind: 'drive-suspected', serial: sick, note: 'slow' } }]);
    }
    putRight(hand, sick);
  } catch (error) {
    if (!(error instanceof Stuck)) throw error;
    fault = error.message;
  }
  return judged(hand, err, seed, fault);
}

/** How a life ended: with a fault where the record and the truth differ, or the truth lost more than failed by itself. */
export function judged(hand: Hand, err: Err, seed: number, stuck: string | null): Life {
  const down = poolsOf(hand.truth.unit).some(isDown);
  const beyond = down && hand.isBeyond;
  let fault = stuck ?? whyNotSame(hand.unit, hand.truth.unit);
  if (fault === null && down && !beyond) fault = 'The truth has lost more than failed by itself.';
  return {
    seed,
    err,
    fault,
    record: hand.unit,
    truth: hand.truth.unit,
    beyond,
    wasDown: hand.wasDown,
    plans: hand.plans,
    steps: hand.steps,
  };
}

/** Where the record and the truth differ, in what a person must be able to rely on. */
export function whyNotSame(recorded: UnitState, truth: UnitState): string | null {
  const drives = (unit: UnitState): string =>
    Object.values(unit.drives)
      .filter(({ bay }) => bay !== null)
      .map(
        ({ serial, bay, bytes, condition }) =>
          `${bay ?? ''}:${serial}:${String(bytes)}:${condition === 'failed' ? 'failed' : 'in'}`,
      )
      .sort()
      .join(' ');
  const pools = (unit: UnitState): string =>
    poolsOf(unit)
      .map(
        (pool) =>
          `${pool.name} ${pool.scheme} of ${String(new Set(membersOf(pool)).size)}, ${String(pool.usableBytes)} usable, spares ${[...pool.spares].sort().join(',')}, missing ${[...pool.missing].sort().join(',')} margin ${String(marginOfPool(pool))}`,
      )
      .join('; ');
  const jobs = (unit: UnitState): string => String(Object.keys(unit.jobs).length);
  const boxes = ({ enclosures, power }: UnitState): string =>
    `${enclosures.map(({ name, bays }) => `${name} ${String(bays.length)}`).join(', ')}, ${power}`;
  const cache = (unit: UnitState): string => `cache ${[...unit.cache].sort().join(',')} ${unit.cacheHolds ?? ''}`;
  for (const part of [drives, pools, jobs, boxes, cache])
    if (part(recorded) !== part(truth)) return `The record has “${part(recorded)}”, the truth “${part(truth)}”.`;
  return null;
}
