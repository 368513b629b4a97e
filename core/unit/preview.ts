import { isRefusal, type Refusal } from '../value/refusal';
import { factsOf } from '../layout/scheme';
import { apply } from './apply';
import type { Of, UnitEvent } from './event';
import { membersOfBands } from '../pool/builtPool';
import { marginsOf } from './margin';
import { entryOf } from '../value/entryOf';
import { membersOf, type JobTask, type Pool, type UnitState } from './state';

/** What an event would do that a person must hear before it is done. */
export interface Hazard {
  readonly kind: 'hazard';
  /** `second-out`: less margin for a pool that is thinned already. `interrupts-work`: stops what must run to its end. */
  readonly code: 'erases' | 'margin-lowered' | 'second-out' | 'data-lost' | 'unguarded' | 'interrupts-work';
  readonly sentence: string;
  /** The drives it is about: asked for by serial, never by "Yes". */
  readonly serials: readonly string[];
}

export interface Preview {
  readonly kind: 'preview';
  readonly after: UnitState;
  /** Margin by pool; a pool that is not there has no entry. */
  readonly marginBefore: Readonly<Record<string, number>>;
  readonly marginAfter: Readonly<Record<string, number>>;
  readonly hazards: readonly Hazard[];
}

/** What an event would change, without changing anything: the state after, the margins, and the hazards. */
export function preview(unit: UnitState | null, event: UnitEvent, happenedAt: string): Preview | Refusal {
  const after = apply(unit, event, happenedAt);
  if (isRefusal(after)) return after;
  return Object.freeze({ kind: 'preview', after, ...difference(unit, after), hazards: hazardsOf(unit, event, after) });
}

/** What a person must hear of an event; of a pool taken apart too, which no state tells from one that left. */
export function hazardsOf(unit: UnitState | null, event: UnitEvent, after: UnitState): readonly Hazard[] {
  const { hazards } = difference(unit, after);
  if (
    unit &&
    (event.kind === 'drive-removed' || event.kind === 'drive-taken-out-of-service') &&
    unit.cache.includes(event.serial)
  )
    return [...hazards, ...cacheOut(unit, event.serial)];
  if (!unit || (event.kind !== 'pool-destroyed' && event.kind !== 'pool-grown' && event.kind !== 'pool-converted'))
    return hazards;
  const pool = entryOf(unit.pools, event.pool);
  return pool ? [...erasing(unit, pool, event), ...hazards] : hazards;
}

/** What was written and has not left the cache is nowhere else. */
function cacheOut(unit: UnitState, serial: string): Hazard[] {
  // What was read stands in the pool as well.
  if (unit.cacheHolds === 'reads') return [];
  const what =
    unit.cacheHolds === 'writes'
      ? 'what was written and is only in it is lost with it'
      : 'whether it holds what was written nobody has said, and that would be lost with it';
  const sentence = `${serial} is cache of ${unit.name}: ${what}. Switch the cache off on the unit’s own page first, and wait until it has emptied.`;
  return [{ kind: 'hazard', code: 'data-lost', serials: [serial], sentence }];
}

/** What is on drives goes with a pool that is taken apart, with a change of level that keeps nothing, and by being taken in. */
function erasing(
  unit: UnitState,
  pool: Pool,
  event: Of<'pool-destroyed'> | Of<'pool-grown'> | Of<'pool-converted'>,
): Hazard[] {
  const erases = (serials: readonly string[], sentence: string): Hazard => ({
    kind: 'hazard',
    code: 'erases',
    serials,
    sentence,
  });
  const members = membersOf(pool);
  if (event.kind === 'pool-destroyed')
    return [erases(members, `With ${pool.name} taken apart, all that it holds is gone.`)];
  const fresh = membersOfBands(event.bands).filter(
    (serial) => !members.includes(serial) && !pool.spares.includes(serial),
  );
  const offered = unit.profile.growth.conversions.find(
    ({ from, to }) => event.kind === 'pool-converted' && from === pool.scheme && to === event.scheme,
  );
  const keeps = event.kind === 'pool-grown' || event.scheme === pool.scheme || offered?.keepsData === true;
  return [
    ...(fresh.length === 0
      ? []
      : [
          erases(
            fresh,
            `Taking ${fresh.join(', ')} into ${pool.name} erases what is on ${fresh.length === 1 ? 'it' : 'them'}.`,
          ),
        ]),
    ...(keeps ? [] : [erases(members, `This family erases ${pool.name} to make it anew: all that it holds is gone.`)]),
  ];
}

/** What a person must hear before one state becomes another: margins by pool, and the hazards with their serials. */
export function difference(
  unit: UnitState | null,
  after: UnitState,
): Pick<Preview, 'marginBefore' | 'marginAfter' | 'hazards'> {
  const marginBefore = unit === null ? {} : marginsOf(unit);
  const marginAfter = marginsOf(after);
  const hazards: Hazard[] = [];
  for (const [id, pool] of Object.entries(after.pools)) {
    const [before, now] = [marginBefore[id], marginAfter[id] as number];
    if (before === undefined && pool.arrivedFrom !== undefined) {
      // It came with what is on it: nothing is erased.
      continue;
    }
    if (before === undefined) {
      const serials = [...membersOf(pool), ...pool.spares];
      hazards.push({
        kind: 'hazard',
        code: 'erases',
        serials,
        sentence: `Creating ${pool.name} erases every drive in it: ${serials.join(', ')}.`,
      });
      if (now === 0)
        hazards.push({
          kind: 'hazard',
          code: 'unguarded',
          serials,
          sentence: `${pool.name} can lose none: one dead drive loses data. Keep another copy.`,
        });
      continue;
    }
    if (now >= before) continue;
    const serials = pool.missing.filter((serial) => !unit?.pools[id]?.missing.includes(serial));
    if (serials.length === 0 && pool.building === true && now === 0) {
      hazards.push({
        kind: 'hazard',
        code: 'unguarded',
        serials,
        sentence: `${pool.name} can lose none until its first build is done: keep what is copied in elsewhere too.`,
      });
      continue;
    }
    hazards.push(
      now < 0
        ? {
            kind: 'hazard',
            code: 'data-lost',
            serials,
            sentence:
              factsOf(pool.scheme).loses === 'pool'
                ? `Without ${serials.join(', ')} ${pool.name} stops: what it holds is out of reach, and lost if ${serials.length === 1 ? 'it does' : 'they do'} not come back.`
                : `Without ${serials.join(', ')} ${pool.name} loses data: what is on ${serials.length === 1 ? 'it' : 'them'} is in no other drive.`,
          }
        : {
            kind: 'hazard',
            code: (unit?.pools[id]?.missing.length ?? 0) > 0 ? 'second-out' : 'margin-lowered',
            serials,
            sentence: `Without ${serials.join(', ')} ${pool.name} can lose ${now === 0 ? 'none' : String(now)} more.`,
          },
    );
  }
  if (unit) hazards.push(...interrupted(unit, after));
  return { marginBefore, marginAfter, hazards: Object.freeze(hazards) };
}

/** Work that ends before its time: by switching off, as far as the family is known, or by the drive it writes going. */
function interrupted(unit: UnitState, after: UnitState): Hazard[] {
  const { powerOff = 'forbidden' } = unit.profile.rebuild;
  const isSwitchedOff = unit.power === 'on' && after.power === 'off' && powerOff !== 'goes-on';
  return Object.values(unit.jobs).flatMap(({ id, task, percent, pool, onto }): Hazard[] => {
    if (!MUST_FINISH.has(task)) return [];
    if (onto !== undefined && works(unit, onto) && !works(after, onto) && entryOf(after.jobs, id)) {
      const sentence = `Without ${onto} the ${MUST_FINISH.get(task) ?? ''} onto it ends at ${String(Math.floor(percent))} %.`;
      return [{ kind: 'hazard', code: 'interrupts-work', serials: [onto], sentence }];
    }
    if (!isSwitchedOff) return [];
    const what = `${MUST_FINISH.get(task) ?? ''}${onto === undefined ? ` of ${unit.pools[pool]?.name ?? pool}` : ` onto ${onto}`} at ${String(Math.floor(percent))} %`;
    const then =
      powerOff === 'starts-again'
        ? 'on this family it starts again from nothing'
        : 'on this family it must run to its end';
    const serials = onto === undefined ? membersOf(unit.pools[pool] as Pool) : [onto];
    return [
      { kind: 'hazard', code: 'interrupts-work', serials, sentence: `Switching off stops the ${what}: ${then}.` },
    ];
  });
}

function works({ drives }: UnitState, serial: string): boolean {
  const drive = entryOf(drives, serial);
  return drive?.bay != null && drive.condition !== 'failed';
}

const MUST_FINISH: ReadonlyMap<JobTask, string> = new Map([
  ['first-build', 'first build'],
  ['rebuild', 'rebuild'],
  ['replace', 'replacement'],
  ['expand', 'expansion'],
  ['convert', 'conversion'],
]);
