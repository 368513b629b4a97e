import { serialKey } from '../../core/drive/serial';
import type { DriveLife } from '../../core/driveLife/life';
import type { PlanRun } from '../../core/planRun/planRun';
import type { UnitState } from '../../core/unit/state';
import { canonicalJson } from '../../core/value/canonicalJson';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import type { Act, Actor } from '../../core/world/act';
import { ledgersOf } from '../../core/world/consequences';
import { nameText, type AnyEvent, type Ledger, type LedgerName } from '../../core/world/ledger';
import { record, type RecordedAct } from '../../core/world/record';
import { takeBack } from '../../core/world/takeBack';
import { ledgerIn, withLedgers, worldOf, type World } from '../../core/world/world';
import type { TakenBack } from '../../core/ledger/recorded';
import { actById, insertAct, loadLedgers, lockLedgers } from '../../store/acts';
import type { Transaction } from '../../store/database';
import { forgetLife, saveLives } from '../../store/driveLives';
import { forgetDrivesOf } from '../../store/drives';
import { forgetPlan, savePlan } from '../../store/plans';
import { forgetUnit, unitNamed } from '../../store/units';
import type { ImportRow } from './importRow';
import { momentOf } from '../door/moment';
import { project } from '../ledgers/project';

/** An act of an export, as its schema has let it through. */
export interface ActGiven {
  readonly id: string;
  readonly happenedAt: string;
  readonly recordedAt: string;
  readonly by: Actor;
  readonly takesBack?: string;
  readonly entries: readonly {
    readonly unit?: string;
    readonly drive?: string;
    readonly plan?: string;
    readonly seq: number;
    readonly event: AnyEvent | TakenBack;
  }[];
}

/**
 * Brings acts back through the one way anything becomes true: each is judged as it was when it was first recorded, and
 * must come to the very entries the file has. Acts that are here already stay as they are.
 */
export async function bringActs(tx: Transaction, given: readonly ActGiven[], now: Date): Promise<ImportRow[]> {
  const acts = given.map(inUtc);
  const named = distinct(acts.flatMap(({ entries }) => entries.map(nameOf)));
  const names = distinct([...named, ...(await alsoTouched(tx, acts))]);
  await lockLedgers(tx, names);
  const before = worldOf(await loadLedgers(tx, names));
  let world = before;
  const refused = new Map<string, ImportRow>();
  const fresh = new Map<string, number>();
  for (const [i, act] of acts.entries()) {
    const first = act.entries[0];
    const key = first ? nameText(nameOf(first)) : '';
    const here = await isHere(tx, act);
    if (here === 'same') continue;
    const seen =
      here === 'other'
        ? refusal(
            'act-differs',
            'It says something else here than in the file: two ledgers that have parted cannot be joined.',
          )
        : (whyNotThen(act, now) ?? whyNotSoCalled(act) ?? again(world, act));
    if (isRefusal(seen)) {
      if (!refused.has(key))
        refused.set(key, {
          ...rowOf(world, nameOf(first as ActGiven['entries'][number])),
          verdict: 'refused',
          detail: `Act ${String(i + 1)} of the file: ${seen.sentence}`,
        });
      continue;
    }
    await insertAct(
      tx,
      { act: { id: act.id, by: act.by, happenedAt: act.happenedAt }, written: seen.written },
      { recordedAt: act.recordedAt, takesBack: act.takesBack },
    );
    world = withLedgers(world, seen.ledgers);
    for (const ledger of seen.ledgers) fresh.set(nameText(ledger), (fresh.get(nameText(ledger)) ?? 0) + 1);
  }
  if (refused.size === 0) for (const no of await projectAll(tx, before, world)) refused.set(no.name, no);
  const rows = names
    .filter((name) => name.kind !== 'plan' && !refused.has(nameText(name)))
    .map((name): ImportRow => {
      const [was, is] = [ledgerIn(before, name).version, ledgerIn(world, name).version];
      return {
        ...rowOf(world, name),
        verdict: was === is ? 'unchanged' : was === 0 ? 'added' : 'changed',
        detail:
          was === is
            ? `${String(was)} ${was === 1 ? 'entry is' : 'entries are'} here.`
            : `${String(is - was)} ${is - was === 1 ? 'entry' : 'entries'}.`,
      };
    });
  return [...rows, ...refused.values()];
}

/** An act of the file, made again in the world as it had come by then. */
function again(world: World, act: ActGiven): RecordedAct | Refusal {
  const { id, by, happenedAt } = act;
  const made =
    act.takesBack === undefined
      ? againRecorded(world, act)
      : againTakenBack(world, act, { id, by, happenedAt, act: act.takesBack });
  if (isRefusal(made)) return made;
  const text = (kind: string, ledger: string, seq: number, event: object): string =>
    `${kind} ${ledger} ${String(seq)} ${canonicalJson(event)}`;
  const said = act.entries.map((entry) => text(nameOf(entry).kind, nameOf(entry).id, entry.seq, entry.event)).sort();
  const is = made.written.map((one) => text(one.kind, one.id, one.seq, one.event)).sort();
  return canonicalJson(said) === canonicalJson(is)
    ? made
    : refusal(
        'act-differs',
        'It says something else in the file than it comes to here: its entries are not numbered on, or two ledgers have parted and cannot be joined.',
      );
}

function againRecorded(world: World, { id, by, happenedAt, entries }: ActGiven): RecordedAct | Refusal {
  // What an entry means for the ledger of a drive follows from it; only what was said is said again.
  const said = entries.filter(
    ({ event }) =>
      event.kind !== 'fitted' &&
      event.kind !== 'taken-out' &&
      event.kind !== 'taken-back' &&
      event.kind !== 'pool-contents',
  );
  const act: Act = {
    kind: 'act',
    id,
    by,
    happenedAt,
    expects: [],
    entries: said.map((entry) => ({ ledger: nameOf(entry), event: entry.event as AnyEvent })),
  };
  return record(
    withLedgers(
      world,
      ledgersOf(act.entries).flatMap((name) => ledgerIn(world, name)),
    ),
    act,
  );
}

function againTakenBack(
  world: World,
  { entries }: ActGiven,
  of: Omit<Parameters<typeof takeBack>[1], 'reason'>,
): RecordedAct | Refusal {
  const back = entries.find((entry): entry is typeof entry & { event: TakenBack } => entry.event.kind === 'taken-back');
  return back
    ? takeBack(world, { ...of, reason: back.event.reason })
    : refusal('nothing-to-record', 'It takes nothing back.');
}

/** Whether an act was brought or recorded before: word for word, or saying something else. */
async function isHere(tx: Transaction, { id, entries }: ActGiven): Promise<'same' | 'other' | null> {
  const known = await actById(tx, id);
  if (!known) return null;
  const text = (kind: string, ledger: string, event: object): string => `${kind} ${ledger} ${canonicalJson(event)}`;
  const here = new Set(known.entries.map((entry) => text(entry.kind, entry.id, entry.event)));
  return entries.every((entry) => here.has(text(nameOf(entry).kind, nameOf(entry).id, entry.event))) ? 'same' : 'other';
}

/**
 * Ledgers here that an act of the file means something for, whether the file names them or not: those of the act it takes
 * back, and those of the drives it moves. Nothing is taken back, or moved, by half.
 */
async function alsoTouched(tx: Transaction, acts: readonly ActGiven[]): Promise<LedgerName[]> {
  const back = acts.flatMap(({ takesBack }) => takesBack ?? []);
  const known = await Promise.all(back.map((id) => actById(tx, id)));
  return [
    ...known.flatMap((act) => act?.entries ?? []).map(({ kind, id }) => ({ kind, id })),
    ...ledgersOf(
      acts.flatMap(({ entries }) =>
        entries.map((entry) => ({ ledger: nameOf(entry), event: entry.event as AnyEvent })),
      ),
    ),
  ];
}

/** An act happened before it was recorded, and was recorded before now; as when it was first sent. */
function whyNotThen({ happenedAt, recordedAt }: ActGiven, now: Date): Refusal | undefined {
  const recorded = momentOf(recordedAt, now);
  if (isRefusal(recorded)) return recorded;
  const happened = momentOf(happenedAt, new Date(recorded));
  return isRefusal(happened) ? happened : undefined;
}

/** A drive is called by its key in every ledger. */
function whyNotSoCalled({ entries }: ActGiven): Refusal | undefined {
  const other = entries.find(({ drive }) => drive !== undefined && serialKey(drive) !== drive);
  return (
    other && refusal('not-the-key', `The drive ${JSON.stringify(other.drive)} goes by ${serialKey(other.drive ?? '')}.`)
  );
}

/** Everything that is computed of the ledgers that grew. */
async function projectAll(tx: Transaction, before: World, after: World): Promise<ImportRow[]> {
  const grown = Object.values(after.ledgers).filter((ledger) => ledger.version > ledgerIn(before, ledger).version);
  const refused: ImportRow[] = [];
  for (const ledger of grown) if (ledger.kind === 'plan') await projectPlan(tx, ledger);
  await forgetDrivesOf(
    tx,
    grown.flatMap(({ kind, id }) => (kind === 'unit' ? id : [])),
  );
  for (const ledger of grown) {
    const { kind, id, version, state } = ledger;
    const lastHappenedAt = ledger.lastHappenedAt as string;
    if (kind === 'unit' && state === null) await forgetUnit(tx, id);
    else if (kind === 'unit') {
      const taken = await unitNamed(tx, (state as UnitState).name);
      if (taken !== undefined && taken !== id)
        refused.push({
          ...rowOf(after, ledger),
          verdict: 'refused',
          detail: `There is another unit called ${(state as UnitState).name}.`,
        });
      else await project(tx, { id, version, lastHappenedAt, state: state as UnitState });
    } else if (kind === 'drive' && state === null) await forgetLife(tx, id);
    else if (kind === 'drive') await saveLives(tx, [{ version, lastHappenedAt, life: state as DriveLife }]);
  }
  return refused;
}

async function projectPlan(tx: Transaction, { id, version, state, lastHappenedAt }: Ledger): Promise<void> {
  if (state === null) await forgetPlan(tx, id);
  else await savePlan(tx, { id, version, lastHappenedAt: lastHappenedAt as string, run: state as PlanRun });
}

function rowOf(world: World, name: LedgerName): Pick<ImportRow, 'what' | 'name'> {
  const state = ledgerIn(world, name).state as UnitState | null;
  return { what: name.kind, name: name.kind === 'unit' ? (state?.name ?? name.id) : name.id };
}

function nameOf({ unit, drive, plan }: ActGiven['entries'][number]): LedgerName {
  return unit !== undefined
    ? { kind: 'unit', id: unit }
    : drive !== undefined
      ? { kind: 'drive', id: drive }
      : { kind: 'plan', id: plan ?? '' };
}

function distinct(names: readonly LedgerName[]): LedgerName[] {
  return [...new Map(names.map((name) => [nameText(name), name])).values()];
}

/** Times as the ledger writes them, and ids: a file may name any zone. */
function inUtc(act: ActGiven): ActGiven {
  const utc = (time: string): string => new Date(time).toISOString();
  return { ...act, happenedAt: utc(act.happenedAt), recordedAt: utc(act.recordedAt) };
}
