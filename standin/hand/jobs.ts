import { attempt } from '../../core/plan/engine/attempt';
import { makePlan, type WishOf } from '../../core/plan/makers/makePlan';
import type { PlanBody, PlanStep, StepEvidence } from '../../core/plan/plan';
import { dayOf } from '../../core/quantity/days';
import type { UnitEvent } from '../../core/unit/event';
import { isDown } from '../../core/unit/margin';
import { driveInBay, freeBays, membersOf, poolsOf, type UnitState } from '../../core/unit/state';
import { isRefusal, type Refusal } from '../../core/value/refusal';
import { pulled, pushed, told } from './behaves';
import { Hand, judged, putRight, Stuck, U, type Err, type Life } from './person';

/** A literal hand at the plans that make, grow, change and end: it reads drives where they lie, gives commands in the unit's own page, and takes drives out by lists. */

export const WORKED = [
  'commission',
  'new-pool',
  'grow',
  'hot-spare',
  'spare-in',
  'replace-all',
  'convert',
  'cache',
  'extend',
  'retire',
] as const;
export type Worked = (typeof WORKED)[number];

/** What is done by a command in the unit's own page: the unit does it, with the drives that stand in it. */
const BY_PAGE: ReadonlySet<string> = new Set([
  'make-pool',
  'add-drives',
  'change-level',
  'assign-spare',
  'release-spare',
  'set-cache',
  'expand',
  'destroy-pool',
  'make-volume',
  'enlarge-volume',
  'start-job',
  'finish-job',
  'attach-enclosure',
]);

/** Bytes of one of what a unit's page counts in. */
const COUNTED = { TB: 1e12, TiB: 2 ** 40 } as const;

class JobHand extends Hand {
  /** Drives that lie on the table, read; each goes into one bay. */
  table: { readonly serial: string; readonly bytes: number }[] = [];
  made = 0;

  override hands(step: PlanStep): readonly StepEvidence[] {
    const { asks, does } = step;
    const errs = this.err !== 'none' && this.erred < 1;
    const page = does.filter(({ kind }) => BY_PAGE.has(kind));
    const byPage = (): void => {
      const now = page.filter((one) => one.kind !== 'finish-job' || this.runs(one.task));
      if (now.length > 0) this.commands(step, now);
    };
    if (does.some(({ kind }) => kind === 'finish-rebuild')) {
      // What else becomes true does so once it is written.
      const said = super.hands(step);
      byPage();
      return said;
    }
    if (step.kind === 'wait' && page.length > 0) this.meanwhile(errs, step);
    byPage();
    if (asks.kind === 'speed') return [{ kind: 'speed', read: 110, write: 100 }];
    if (asks.kind === 'drives') return [this.reads(step, errs)];
    if (asks.kind === 'items') return [{ kind: 'items', missing: [] }];
    if (asks.kind === 'copy' && does.some((one) => one.kind === 'arrange-copy' && one.isLast === true)) {
      const on = dayOf(this.now);
      return [
        {
          kind: 'copy',
          copy: { where: 'the bank', keeps: 'versions', offSite: true, ranOn: on },
          fetched: { file: 'orders.ods', on, opened: true },
        },
      ];
    }
    if (asks.kind === 'number') return [this.counts(step, errs)];
    if (asks.kind === 'scans') return [this.list(step, errs)];
    const take = does.find((one) => one.kind === 'take-drive');
    if (take?.kind === 'take-drive' && take.drive.serial === undefined) {
      // What lies on the table is taken; its size is read off it.
      const one = this.table.shift() ?? { serial: this.next(), bytes: take.drive.bytes };
      this.table.unshift(one);
      return [{ kind: 'serial', serial: one.serial, drive: { bytes: one.bytes, basis: 'exact' } }];
    }
    const fit = does.find((one) => one.kind === 'fit-drive');
    if (fit?.kind === 'fit-drive') {
      const laid = fit.drive.serial === undefined ? this.table.shift() : undefined;
      const serial = fit.drive.serial ?? laid?.serial ?? this.next();
      const bytes = laid?.bytes ?? fit.drive.bytes;
      this.truth = pushed(this.truth, fit.drive.bay, serial, bytes, this.remembers);
      return [{ kind: 'serial', serial, drive: { bytes, basis: 'exact' } }];
    }
    if (step.kind === 'wait' && page.length > 0 && asks.kind === 'tick')
      // A wait that ends with what the page itself says.
      return [
        does.some(({ kind }) => kind === 'finish-job') ? { kind: 'page', says: 'done', again: true } : { kind: 'tick' },
      ];
    return super.hands(step);
  }

  override stopped(plan: string, step: PlanStep, evidence: StepEvidence, codes: readonly string[]): void {
    // Put aside, and the one that was planned is taken; read again, what was read wrongly.
    if (codes.includes('too-small') && evidence.kind === 'drives') return;
    if (codes.includes('too-small') && evidence.kind === 'scans') {
      const planned = (bay: string): number =>
        step.does.flatMap((one) => (one.kind === 'fit-drive' && one.drive.bay === bay ? one.drive.bytes : []))[0] ?? 0;
      for (const { bay, drive } of evidence.scans)
        if (drive && drive.bytes < planned(bay)) this.truth = pulled(this.truth, bay);
      return;
    }
    // Looked at again the page shows what is.
    if (codes.includes('space-missing') && this.err === 'old-page') return;
    if (codes.includes('wrong-serial') && evidence.kind === 'scans') return;
    super.stopped(plan, step, evidence, codes);
  }

  /** Work of that kind is under way: a unit ends it by itself. */
  runs(task: string): boolean {
    return Object.values(this.truth.unit.jobs).some((job) => job.task === task);
  }

  /** The unit does what it was told, as it is. */
  commands(step: PlanStep, does: PlanStep['does']): void {
    const done: StepEvidence = { kind: 'page', says: 'done', again: true };
    const ends = does.some(({ kind }) => kind === 'finish-job');
    const part: PlanStep = { ...step, does, asks: { kind: 'tick' } };
    const seen = attempt(this.truth.unit, part, ends ? done : { kind: 'tick' }, this.now);
    // What it cannot do and may be left out is left out, with its reason.
    if (isRefusal(seen) && step.maySkip === true) return;
    if (isRefusal(seen)) throw new Stuck(`“${step.title}” is nothing the unit can do: ${seen.sentence}`);
    for (const event of seen.events) this.truth = told(this.truth, event);
  }

  /** What happens while it is waited for. */
  meanwhile(errs: boolean, step: PlanStep): void {
    if (errs && this.err === 'power-cut') {
      this.erred++;
      this.truth = told(told(this.truth, { kind: 'power', on: false }), { kind: 'power', on: true });
    }
    this.wait(step.hours ?? 1);
  }

  reads(step: PlanStep, errs: boolean): StepEvidence {
    const layOut = step.does.find((one) => one.kind === 'lay-out');
    if (layOut?.kind !== 'lay-out') throw new Stuck(`“${step.title}” asks for drives, and does not say which.`);
    const isSmall = errs && this.err === 'too-small';
    if (isSmall) this.erred++;
    this.table = layOut.bays.map((_, i) => ({
      serial: this.next(),
      bytes: isSmall && i === 0 ? Math.round(layOut.drive.bytes / 2) : layOut.drive.bytes,
    }));
    return {
      kind: 'drives',
      drives: this.table.map((one) => ({ ...layOut.drive, ...one, looks: 'new' })),
    };
  }

  counts(step: PlanStep, errs: boolean): StepEvidence {
    const { unit } = this.truth;
    for (const one of step.does) {
      if (one.kind === 'count-drives') {
        const bays = unit.enclosures.find(({ name }) => name === one.enclosure)?.bays ?? [];
        return { kind: 'number', number: bays.filter((bay) => driveInBay(unit, bay)).length };
      }
      // Its page shows what it showed before, once.
      const isOld = errs && this.err === 'old-page' && one.kind === 'see-space';
      if (isOld) this.erred++;
      const pool = one.kind === 'see-space' ? unit.pools[one.pool] : undefined;
      if (pool)
        return {
          kind: 'number',
          number: Math.round((pool.shownBytes / COUNTED[unit.profile.unitPage.counts]) * 100 * (isOld ? 0.5 : 1)) / 100,
        };
    }
    return { kind: 'number', number: 1 };
  }

  /** Drives into a box or out of it, bay by bay as they are listed. */
  list(step: PlanStep, errs: boolean): StepEvidence {
    const { asks } = step;
    if (asks.kind !== 'scans') throw new Stuck('No list.');
    const misreads = errs && this.err === 'misread';
    // One of the box is half as large: its size is read off it, as it is.
    const isSmall = errs && this.err === 'too-small' && step.does.some(({ kind }) => kind === 'fit-drive');
    if (misreads || isSmall) this.erred++;
    const scans = asks.bays.map(({ bay, expects }, i) => {
      const fit = step.does.find((one) => one.kind === 'fit-drive' && one.drive.bay === bay);
      if (fit?.kind === 'fit-drive') {
        const there = driveInBay(this.truth.unit, bay);
        const serial = there?.serial ?? expects ?? this.next();
        const bytes = there?.bytes ?? Math.round(fit.drive.bytes / (isSmall && i === 0 ? 2 : 1));
        if (!there) this.truth = pushed(this.truth, bay, serial, bytes, this.remembers);
        return { bay, serial, drive: { bytes, basis: 'exact' as const } };
      }
      this.truth = pulled(this.truth, bay);
      return { bay, serial: misreads && i === 0 ? `${expects ?? ''}X` : (expects ?? '') };
    });
    return { kind: 'scans', scans };
  }

  next(): string {
    return `FRESH-${String(++this.made).padStart(5, '0')}`;
  }
}

const LARGER = 2;

/** The wish somebody has at this unit; `null` where its family offers nothing of the kind. */
function wishFor(job: Worked, unit: UnitState): WishOf[Worked] | null {
  const pool = poolsOf(unit)[0];
  const sizes = Object.values(unit.drives).map(({ bytes }) => bytes);
  const drive = { bytes: Math.max(...sizes, 4e12), basis: 'exact' as const };
  const free = freeBays(unit);
  switch (job) {
    case 'commission':
      return {
        drives: free.map((bay) => ({ bay, bytes: 4e12, basis: 'exact' as const })),
        pool: { name: 'Papers', scheme: free.length > 2 ? schemeFor(unit) : 'mirror' },
      };
    case 'new-pool':
      return {
        drives: free.slice(0, 2).map((bay) => ({ bay, ...drive })),
        pool: { name: 'Pictures', scheme: unit.profile.schemes['mirror'] ? 'mirror' : schemeFor(unit) },
      };
    case 'grow':
    case 'hot-spare':
      return pool ? { pool: pool.id, drive } : null;
    case 'spare-in': {
      const [serial] = pool?.missing ?? [];
      const [spare] = pool?.spares ?? [];
      return serial !== undefined && spare !== undefined ? { serial, spare, drive } : null;
    }
    case 'replace-all':
      return pool ? { pool: pool.id, drive: { ...drive, bytes: LARGER * drive.bytes } } : null;
    case 'convert': {
      const to = unit.profile.growth.conversions.find(({ from, keepsData }) => from === pool?.scheme && keepsData)?.to;
      return pool && to ? { pool: pool.id, to, drive } : null;
    }
    case 'cache':
      return {
        change: unit.cache.length > 0 ? 'renew' : 'add',
        holds: 'writes',
        drive: { bytes: 1e12, basis: 'exact', media: 'nvme' },
      };
    case 'extend':
      return { name: 'Extension 1', bays: 4 };
    case 'retire':
      return {};
  }
}

function schemeFor({ profile }: UnitState): 'parity-1' | 'mixed-1' | 'dedicated-1' {
  return (['parity-1', 'mixed-1', 'dedicated-1'] as const).find((scheme) => profile.schemes[scheme]) ?? 'parity-1';
}

/** One life of such a plan, and of whatever has to be put right after it; `null` where the unit's family does not offer it. */
export function jobLifeOf(
  job: Worked,
  events: readonly UnitEvent[],
  err: Err,
  seed: number,
  start: string,
): Life | null {
  const hand = new JobHand(job === 'commission' ? events.slice(0, 1) : events, err, seed, start);
  // A member goes, and the spare is there for it.
  const [pool] = poolsOf(hand.unit);
  if (job === 'spare-in' && pool && pool.spares.length > 0) hand.fails(membersOf(pool)[0] ?? '');
  const wish = wishFor(job, hand.unit);
  const body: PlanBody | Refusal | null = wish && makePlan(job, hand.unit, wish as never, [], () => U);
  if (!body || isRefusal(body)) return null;
  let fault: string | null = null;
  try {
    const how = hand.work(body);
    if (how === 'frozen' || poolsOf(hand.unit).some((pool) => isDown(pool) || pool.missing.length > 0))
      putRight(hand, '');
  } catch (error) {
    if (!(error instanceof Stuck)) throw error;
    fault = error.message;
  }
  return judged(hand, err, seed, fault);
}
