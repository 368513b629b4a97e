import { readFileSync } from 'node:fs';
import { labelBytes } from '../core/drive/labelBytes';
import type { Profile } from '../core/platform/profile';
import { apply } from '../core/unit/apply';
import type { UnitEvent } from '../core/unit/event';
import type { UnitState } from '../core/unit/state';
import { isRefusal } from '../core/value/refusal';
import { putUpAs } from '../demo/putUpAs';
import { MARROWFEN, THE_POOL, type DemoUnit } from '../demo/scenario';
import { truthOf, type Truth } from './truth';

/** How many units there are unless somebody asks for another number: those of the demo. */
export const DEMO_UNITS = MARROWFEN.units.length;

const DAY_MS = 24 * 3600e3;

/**
 * So many units as the demo tells them, at this moment of theirs; beyond the demo's, more of the same kinds with drives
 * and names of their own.
 *
 * @param root the checkout: the shipped profiles are read from it
 */
export function unitsPlayed(count: number, seed: number, now: number, root: string): Truth[] {
  return Array.from({ length: count }, (_, i) => {
    return played(unitOfDemo(i), seed + i, now, root);
  });
}

/** The unit that is played at this place, counted from 0; beyond the demo's they begin anew. */
export function unitOfDemo(place: number): DemoUnit {
  const unit = MARROWFEN.units[place % DEMO_UNITS] as DemoUnit;
  const round = Math.floor(place / DEMO_UNITS);
  if (round === 0) return unit;
  const own = (serial: string): string => `${serial}-${String(round)}`;
  const drives = unit.drives.map((drive) => ({ ...drive, serial: own(drive.serial) }));
  const { replacing: _replacing, ...rest } = unit;
  return { ...rest, name: `${unit.name} ${String(round + 1)}`, drives, later: [] };
}

function played(unit: DemoUnit, seed: number, now: number, root: string): Truth {
  const at = (daysAgo: number): string => new Date(now - daysAgo * DAY_MS).toISOString();
  const profile = JSON.parse(readFileSync(`${root}/core/platform/profiles/${unit.profile}.json`, 'utf8')) as Profile;
  const pool = 'pool-1';
  const { events, shownBytes } = putUpAs(profile, unit, at, pool);
  let state: UnitState | null = null;
  const tell = (daysAgo: number, event: UnitEvent): void => {
    const after = apply(state, event, at(daysAgo));
    if (isRefusal(after)) throw new Error(`${unit.name} cannot be played: ${after.sentence}`);
    state = after;
  };
  for (const event of events) tell(unit.daysAgo, event);
  const { replacing } = unit;
  const later: { readonly daysAgo: number; readonly event: UnitEvent }[] = [
    ...unit.later,
    ...(replacing ? replaced(replacing, pool) : []),
  ];
  for (const { daysAgo, event } of later.sort((a, b) => b.daysAgo - a.daysAgo))
    tell(daysAgo, 'pool' in event && event.pool === THE_POOL ? ({ ...event, pool } as UnitEvent) : event);
  return truthOf(state as unknown as UnitState, { [pool]: Math.round(shownBytes * unit.fill.to) }, seed, now);
}

function replaced(
  { serial, by, daysAgo }: NonNullable<DemoUnit['replacing']>,
  pool: string,
): { readonly daysAgo: number; readonly event: UnitEvent }[] {
  const drive = { serial: by.serial, bytes: labelBytes(by.gigabytes), basis: 'exact' as const, model: by.model };
  return [
    { daysAgo, event: { kind: 'drive-removed', serial } },
    { daysAgo: daysAgo - 0.02, event: { kind: 'drive-inserted', bay: by.bay, drive } },
    {
      daysAgo: daysAgo - 0.08,
      event: { kind: 'job-started', job: 'rebuild-1', task: 'rebuild', pool, replaces: serial, onto: by.serial },
    },
  ];
}
