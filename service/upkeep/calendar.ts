import ical, { ICalCalendarMethod, ICalEventRepeatingFreq, ICalEventTransparency } from 'ical-generator';
import { everyWords, TASK_WORDS } from '../../core/record/eventWords';
import { upkeepOf } from '../../core/upkeep/upkeepOf';
import { daysAfter, dayOf, startOfDay } from '../../core/quantity/days';
import { isFeed } from '../../store/feeds';
import { organisation } from '../../store/organisation';
import { partsOfUnits, waitsNow } from '../../store/shelf';
import type { UnitState } from '../../core/unit/state';
import type { App } from '../app';
import { hashOfKey } from '../access/oneTimeKey';

const FREQUENCY = {
  day: ICalEventRepeatingFreq.DAILY,
  week: ICalEventRepeatingFreq.WEEKLY,
  month: ICalEventRepeatingFreq.MONTHLY,
  year: ICalEventRepeatingFreq.YEARLY,
} as const;

/** Days of notice before a warranty ends. */
const NOTICE_DAYS = 30;
/** A look at a unit whose work is about done. */
const LOOK_MINUTES = 15;
const MOST_WAITS = 200;

/**
 * The upkeep of every unit as a calendar (RFC 5545): each task from the day it is next due, with its rule, and the ends
 * of warranties. `null` for an address nobody has been given.
 */
export async function calendarAt(app: App, secret: string): Promise<string | null> {
  if (!/^[\w-]{20,100}$/.test(secret) || !(await isFeed(app.db, hashOfKey(secret)))) return null;
  const { name } = await organisation(app.db);
  const units = await partsOfUnits(app.db, ['upkeep', 'upkeepDone', 'drives', 'details']);
  const waits = await waitsNow(app.db, MOST_WAITS);
  const calendar = ical({
    name: `Upkeep, ${name}`,
    method: ICalCalendarMethod.PUBLISH,
    prodId: '//patient-shelf//upkeep//EN',
  });
  for (const { id, name: unit, site, version, lastAt, state } of units) {
    // What says when it is of is the record: as long as nothing is entered, a calendar that asks again is told of no change. And
    // none of it makes anybody busy.
    const told = {
      stamp: new Date(lastAt),
      sequence: version,
      transparency: ICalEventTransparency.TRANSPARENT,
      location: site,
    };
    for (const task of upkeepOf(state as UnitState)) {
      if (task.due === null) continue;
      calendar.createEvent({
        id: `${id}-${task.id}@patient-shelf`,
        start: new Date(startOfDay(task.due)),
        allDay: true,
        ...told,
        timezone: 'UTC',
        summary: `${unit}: ${task.title}`,
        description: `${task.lastDone === null ? 'Not done yet' : `Last done ${dayOf(task.lastDone)}`}; ${everyWords(task)}.`,
        ...(task.unit === 'once' ? {} : { repeating: { freq: FREQUENCY[task.unit], interval: task.every } }),
      });
    }
    for (const { job, task, bay, estimate } of waits.filter((wait) => wait.unit === id)) {
      if (estimate === null) continue;
      calendar.createEvent({
        id: `${id}-${job}@patient-shelf`,
        start: new Date(estimate.likely),
        end: new Date(Date.parse(estimate.likely) + LOOK_MINUTES * 60_000),
        ...told,
        summary: `${unit}: ${TASK_WORDS[task]}${bay === null ? '' : `, ${bay}`} about done`,
        description: `Four times out of five between ${estimate.low.slice(0, 16)} and ${estimate.high.slice(0, 16)} UTC. Pull nothing before the unit says healthy.`,
      });
    }
    for (const [day, what] of warrantyEnds(state)) {
      calendar.createEvent({
        id: `${id}-warranty-${day}@patient-shelf`,
        start: new Date(daysAfter(startOfDay(day), -NOTICE_DAYS)),
        allDay: true,
        ...told,
        timezone: 'UTC',
        summary: `${unit}: warranty ends ${day}`,
        description: what.join(', '),
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
