import { formatBytes } from '../../quantity/formatBytes';
import { dayOf, daysBetween, startOfDay } from '../../quantity/days';
import { freeName } from '../../unit/freeName';
import type { UnitEvent } from '../../unit/event';
import { membersOf, poolsOf, type Copy, type DataSet, type Pool, type UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { refusal, type Refusal } from '../../value/refusal';
import { isSameName } from '../../value/sameName';
import type { Intention, PlanStep, StepEvidence } from '../plan';
import type { Interlock } from './interlock';

/** What a person says of the copy a plan leans on: fields, never a sentence that is read into a fact. "None" is an answer. */

type Arrange = Extract<Intention, { kind: 'arrange-copy' }>;
export type CopyGiven = Extract<StepEvidence, { kind: 'copy' }>;

/** A copy that last ran longer ago than this is none that a plan leans on whose failure leaves nothing else (common practice). */
const MOST_DAYS_OLD = 31;

/** A copy, or that there is none: not both, and nothing of a day that has not come. */
export function whyNotCopy({ copy, none, fetched }: CopyGiven, at: string): Refusal | undefined {
  if ((copy === undefined) === (none === undefined))
    return refusal('copy-or-none', 'Say where the copy is, or that there is none.', '/evidence/copy');
  if (none && fetched)
    return refusal('copy-or-none', 'No file came back from a copy there is not.', '/evidence/fetched');
  if ((copy?.ranOn ?? '') > dayOf(at))
    return refusal('later', 'It cannot have run on a day that has not come.', '/evidence/copy/ranOn');
  return (fetched?.on ?? '') > dayOf(at)
    ? refusal('later', 'It cannot have come back on a day that has not come.', '/evidence/fetched/on')
    : undefined;
}

/** What was said of it, in a sentence. */
export function copyGivenWords({ copy, fetched, none }: CopyGiven): string {
  if (!copy) return none?.why === undefined ? 'without a copy' : `without a copy: ${none.why}`;
  const { where, keeps, offSite, ranOn } = copy;
  const came =
    fetched === undefined
      ? 'no file was fetched back'
      : `${fetched.file} came back on ${fetched.on}${fetched.opened ? ', and was opened' : ', and could not be opened'}`;
  return `${where} (${keeps === 'mirror' ? 'a mirror' : 'versions'}, ${offSite ? 'off site' : 'on site'}), ${ranOn === undefined ? 'when it last ran is not known' : `last ran on ${ranOn}`}; ${came}`;
}

/** The pool whose copy a step asks for. */
function poolOf(unit: UnitState, { pool }: Pick<Arrange, 'pool'>): Pool | undefined {
  return pool === undefined ? poolsOf(unit)[0] : entryOf(unit.pools, pool);
}

/** What goes into the register of copies; of "none" the reason alone. */
export function eventsOfCopy(unit: UnitState, arrange: Arrange, evidence: StepEvidence): UnitEvent[] {
  const pool = poolOf(unit, arrange);
  if (evidence.kind !== 'copy' || !pool) return [];
  const { copy, fetched, none } = evidence;
  const sets = Object.values(unit.dataSets).filter((set) => (set.pool ?? pool.id) === pool.id);
  const fresh: DataSet = { id: pool.id, name: pool.name, pool: pool.id, copies: {} };
  // In the register without a copy it is a need, until there is one.
  const entered: UnitEvent[] =
    sets.length > 0 ? [] : [{ kind: 'data-set-described', dataSet: fresh.id, name: fresh.name, pool: pool.id }];
  if (!copy)
    return none?.why === undefined
      ? entered
      : [...entered, { kind: 'noted', note: `Went on without a copy: ${none.why}`.slice(0, 400) }];
  const { ranOn, ...described } = copy;
  const knownIn = (set: DataSet): Copy | undefined =>
    Object.values(set.copies).find(({ where }) => isSameName(where, copy.where));
  // Said of what has a copy there, or none at all; of what has its copy elsewhere nothing is said.
  const meant = sets.filter((set) => knownIn(set) !== undefined || Object.keys(set.copies).length === 0);
  return [
    ...entered,
    ...(sets.length === 0 ? [fresh] : meant.length > 0 ? meant : sets).flatMap((set): UnitEvent[] => {
      const known = knownIn(set);
      const of = { dataSet: set.id, copy: known?.id ?? freeName(set.copies, 'copy') };
      const isNew = !known || known.keeps !== copy.keeps || known.offSite !== copy.offSite;
      return [
        ...(isNew ? [{ kind: 'copy-described' as const, ...of, ...kept(known), ...described }] : []),
        ...(ranOn === undefined || (known?.ranAt !== undefined && dayOf(known.ranAt) >= ranOn)
          ? []
          : [{ kind: 'copy-confirmed' as const, ...of, outcome: 'ran' as const, on: ranOn }]),
        ...(fetched === undefined
          ? []
          : [
              {
                kind: 'copy-confirmed' as const,
                ...of,
                outcome: fetched.opened ? ('restore-worked' as const) : ('restore-failed' as const),
                on: fetched.on,
                note: `${fetched.file}${fetched.opened ? ' came back, and was opened' : ' came back, and could not be opened'}`,
              },
            ]),
      ];
    }),
  ];
}

/** What stands of a copy besides what is said anew. */
function kept(known: Copy | undefined): Partial<Pick<Copy, 'everyDays' | 'freeBytes' | 'on'>> {
  if (!known) return {};
  const { everyDays, freeBytes, on } = known;
  return {
    ...(everyDays === undefined ? {} : { everyDays }),
    ...(freeBytes === undefined ? {} : { freeBytes }),
    ...(on === undefined ? {} : { on }),
  };
}

/** What stops a plan at its copy: there is none, and nobody has said why it goes on; or what follows asks for one that is proven. */
export function interlocksOfCopy(unit: UnitState, step: PlanStep, evidence: StepEvidence, at: string): Interlock[] {
  const arrange = step.does.find((one): one is Arrange => one.kind === 'arrange-copy');
  const pool = arrange && poolOf(unit, arrange);
  if (!pool || evidence.kind !== 'copy') return [];
  const stop = (code: Interlock['code'], sentence: string, back: string, mayOverride: boolean): Interlock[] => [
    { kind: 'interlock', code, sentence, back, serial: membersOf(pool)[0] ?? '', mayOverride },
  ];
  const { copy, fetched, none } = evidence;
  const holds = `${pool.name} (${formatBytes(pool.usableBytes)})`;
  const arranging =
    'Arrange one first: another unit, a rented store, or a drive on a cable for what cannot be made again, smallest and dearest first. Then fetch one file back and open it.';
  if (none && arrange.isLast === true)
    return stop(
      'no-copy',
      `There is no other copy of ${holds}, and what follows writes every byte of it anew: if that stops half-way, nothing is left.`,
      arranging,
      true,
    );
  if (none)
    return none.why === undefined
      ? stop(
          'no-copy',
          `There is no other copy of ${holds}.`,
          `${arranging} Or say why it goes on without: that is recorded as what it is.`,
          false,
        )
      : [];
  const isOld = copy?.ranOn === undefined || daysBetween(startOfDay(copy.ranOn), at) > MOST_DAYS_OLD;
  if (arrange.isLast === true && isOld)
    return stop(
      'copy-unproven',
      `The copy of ${pool.name} at ${copy?.where ?? ''} ${copy?.ranOn === undefined ? 'is not known to have run' : `last ran on ${copy.ranOn}`}.`,
      'Let it run now, and look that it ended well: what was written since is in no other place.',
      true,
    );
  if (
    (arrange.isLast === true || (step.asks.kind === 'copy' && step.asks.isProof === true)) &&
    fetched?.opened !== true
  )
    return stop(
      'copy-unproven',
      fetched
        ? `${fetched.file} came back from ${copy?.where ?? ''} and could not be opened: that is no copy yet.`
        : `No file of ${pool.name} has come back from ${copy?.where ?? ''}: it is hoped for, not proven.`,
      'Fetch one file back, open it, and write down which: it takes minutes.',
      true,
    );
  return [];
}
