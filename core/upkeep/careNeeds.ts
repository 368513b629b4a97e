import { YEAR_DAYS } from '../quantity/year';
import { dayOf, daysAfter, startOfDay } from '../quantity/days';
import { formatRate } from '../quantity/formatRate';
import { poolOfDrive } from '../unit/state';
import { copyTroubles, poolsWithoutDataSet, type CopyTrouble } from './copyNeeds';
import { ALWAYS, need, type NeedForHands, type WatchedUnit } from './need';

/** What needs hands because it was let slip: copies, checks, age. */

/** Five years is a usual planning life of a drive (common practice). */
const PLANNING_LIFE_DAYS = 5 * YEAR_DAYS;
const WARRANTY_NOTICE_DAYS = 60;
const FIRMWARE_DAYS = 365;
/** Slower than this share of the speed when new is worth looking into (common practice). */
const SLOW_SHARE = 0.7;

const COPY_URGENCY: Readonly<Record<CopyTrouble['code'], number>> = {
  'copy-failed': 24,
  'no-copy': 25,
  'restore-failed': 25.5,
  'copy-old': 26,
  'only-mirrors': 27,
  'copy-target-full': 28,
  'never-restored': 33,
  'none-off-site': 33.5,
};

const COPY_TITLES: Readonly<Record<CopyTrouble['code'], string>> = {
  'copy-failed': 'a copy has failed',
  'no-copy': 'no copy',
  'restore-failed': 'a restore did not work',
  'copy-old': 'a copy is old',
  'only-mirrors': 'mirrors only',
  'copy-target-full': 'a copy’s target is nearly full',
  'never-restored': 'a restore is to be tried',
  'none-off-site': 'no copy off site',
};

/** What is wrong with the copies of a unit's data: none, old, mirrors only, never restored, all in one place. */
export function copiesNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  const troubles = Object.values(state.dataSets).flatMap((set) => copyTroubles(set, state.registeredAt));
  const unknown = poolsWithoutDataSet(state).map((name): CopyTrouble => ({
    code: 'no-copy',
    from: ALWAYS,
    reason: `Nobody has written down where the copies of ${name} are. A pool is not a backup: fire, theft and deletion take all members at once.`,
  }));
  return [...troubles, ...unknown].map(({ code, reason, from }) =>
    need(unit, code, COPY_URGENCY[code], `${state.name} · ${COPY_TITLES[code]}`, reason, { from }),
  );
}

/**
 * What was never made sure of on a unit that has a pool: the factory account, the alarm mail, the speed (bytes/s) when
 * new, or now slow.
 */
export function checkNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  if (Object.keys(state.pools).length === 0) return [];
  const needs: NeedForHands[] = [];
  if (state.profile.software.factoryAccount !== 'none' && state.confirmed['factory-password-changed'] === undefined)
    needs.push(
      need(
        unit,
        'factory-password',
        34,
        `${state.name} · factory password`,
        'Nobody has confirmed that the factory account was changed. Its name and password are in every manual.',
      ),
    );
  if (state.confirmed['alarm-mail-tested'] === undefined && state.upkeepDone['alarm-mail'] === undefined)
    needs.push(
      need(
        unit,
        'alarm-mail',
        35,
        `${state.name} · alarm mail never tested`,
        'Send a test alarm from the unit’s page and see it arrive: otherwise nobody hears of a failed drive.',
      ),
    );
  const { baseline, last } = state.speed;
  if (!baseline)
    needs.push(
      need(
        unit,
        'no-baseline',
        55,
        `${state.name} · speed never measured`,
        'Copy one large file each way and write the speeds down, to know later what slow is.',
      ),
    );
  else if (
    last &&
    (last.readBytesPerSecond < SLOW_SHARE * baseline.readBytesPerSecond ||
      last.writeBytesPerSecond < SLOW_SHARE * baseline.writeBytesPerSecond)
  )
    needs.push(
      need(
        unit,
        'slow',
        28,
        `${state.name} · slower than when new`,
        `Reads ${formatRate(last.readBytesPerSecond)}, writes ${formatRate(last.writeBytesPerSecond)}; when new ${formatRate(baseline.readBytesPerSecond)} and ${formatRate(baseline.writeBytesPerSecond)}. A drive that retries, a check in the background or a full pool are the usual causes.`,
      ),
    );
  return needs;
}

/** Warranties about to end, of members and of the unit, and what time does to drives. */
export function ageNeeds(unit: WatchedUnit): NeedForHands[] {
  const { state } = unit;
  const needs: NeedForHands[] = [];
  const standing = Object.values(state.drives).filter(({ bay, serial }) => bay !== null && poolOfDrive(state, serial));
  const ends = new Map<string, string[]>();
  for (const { warrantyUntil, serial } of standing)
    if (warrantyUntil !== undefined) ends.set(warrantyUntil, [...(ends.get(warrantyUntil) ?? []), serial]);
  if (state.details.warrantyUntil != null)
    ends.set(state.details.warrantyUntil, [...(ends.get(state.details.warrantyUntil) ?? []), 'the unit itself']);
  for (const [day, what] of ends)
    needs.push(
      need(
        unit,
        'warranty-ending',
        45,
        `${state.name} · warranty ends ${day}`,
        `${what.length > 3 ? `${String(what.length)} drives` : what.join(', ')}. Test now what is under it, and claim before that day.`,
        { from: daysAfter(startOfDay(day), -WARRANTY_NOTICE_DAYS), until: daysAfter(startOfDay(day), 1) },
      ),
    );
  const oldest = [...standing].sort((a, b) => (since(a) < since(b) ? -1 : 1))[0];
  if (oldest)
    needs.push(
      need(
        unit,
        'drive-old',
        52,
        `${state.name} · drives past five years`,
        `The oldest, ${oldest.serial}, has run since ${dayOf(since(oldest))}. Five years is a usual planning life: have a fitting spare, and plan the replacement of its age-mates one by one.`,
        { from: daysAfter(since(oldest), PLANNING_LIFE_DAYS) },
      ),
    );
  const looked = [state.firmwareAt, state.upkeepDone['firmware'], state.registeredAt]
    .flatMap((at) => at ?? [])
    .sort()
    .at(-1) as string;
  needs.push(
    need(
      unit,
      'firmware-old',
      50,
      `${state.name} · firmware not looked at for a year`,
      `Last on ${dayOf(looked)}${state.details.firmware == null ? '' : ` (${state.details.firmware})`}. Check the copies first, stop transfers, and go on until none is offered.`,
      { from: daysAfter(looked, FIRMWARE_DAYS) },
    ),
  );
  return needs;
}

function since({ boughtOn, insertedAt }: { readonly boughtOn?: string; readonly insertedAt: string }): string {
  return boughtOn === undefined || startOfDay(boughtOn) > insertedAt ? insertedAt : startOfDay(boughtOn);
}
