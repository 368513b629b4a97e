import ical, { ICalCalendarMethod, ICalEventRepeatingFreq } from 'ical-generator';
import { everyWords } from '../core/record/eventWords';
import { upkeepOf } from '../core/upkeep/upkeepOf';
import { daysAfter, dayOf, startOfDay } from '../core/quantity/days';
import { isFeed } from '../store/feeds';
import { organisation } from '../store/organisation';
import { partsOfUnits } from '../store/shelf';
import type { UnitState } from '../core/unit/state';
import type { App } from './app';
import { hashOfKey } from './oneTimeKey';

const FREQUENCY = {
  day: ICalEventRepeatingFreq.DAILY,
  week: ICalEventRepeatingFreq.WEEKLY,
  month: ICalEventRepeatingFreq.MONTHLY,
  year: ICalEventRepeatingFreq.YEARLY,
} as const;

/** Days of notice before a warranty ends. */
const NOTICE_DAYS = 30;

/**
 * The upkeep of every unit as a calendar (RFC 5545): each task from the day it is next due, with its rule, and the ends
 * of warranties. `null` for an address nobody has been given.
 */
export async function calendarAt(app: App, secret: string, now: Date): Promise<string | null> {
  if (!/^[\w-]{20,100}$/.test(secret) || !(await isFeed(app.db, hashOfKey(secret)))) return null;
  const { name } = await organisation(app.db);
  const units = await partsOfUnits(app.db, ['upkeep', 'upkeepDone', 'drives', 'details']);
  const calendar = ical({ name: `Upkeep, ${name}`, method: ICalCalendarMethod.PUBLISH, prodId: '//patient-shelf//upkeep//EN' });
  for (const { id, name: unit, site, state } of units) {
    for (const task of upkeepOf(state as UnitState)) {
      if (task.due === null) continue;
      calendar.createEvent({
        id: `${id}-${task.id}@patient-shelf`,
        start: new Date(startOfDay(task.due)),
        allDay: true,
        stamp: now,
        timezone: 'UTC',
        summary: `${unit}: ${task.title}`,
        description: `${task.lastDone === null ? 'Not done yet' : `Last done ${dayOf(task.lastDone)}`}; ${everyWords(task)}.`,
        location: site,
        repeating: { freq: FREQUENCY[task.unit], interval: task.every },
      });
    }
    for (const [day, what] of warrantyEnds(state)) {
      calendar.createEvent({
        id: `${id}-warranty-${day}@patient-shelf`,
        start: new Date(daysAfter(startOfDay(day), -NOTICE_DAYS)),
        allDay: true,
        stamp: now,
        timezone: 'UTC',
        summary: `${unit}: warranty ends ${day}`,
        description: what.join(', '),
        location: site,
      });
    }
  }
  return calendar.toString();
}

function warrantyEnds({ drives, details }: Pick<UnitState, 'drives' | 'details'>): Map<string, string[]> {
  const ends = new Map<string, string[]>();
  const add = (day: string | null | undefined, what: string): void => {
    if (day != null) ends.set(day, [...(ends.get(day) ?? []), what]);
  };
  add(details.warrantyUntil, 'the unit');
  for (const { serial, bay, warrantyUntil } of Object.values(drives)) if (bay !== null) add(warrantyUntil, serial);
  return ends;
}
