import { refusal } from '../core/value/refusal';
import { findDrives } from '../store/drives';
import { allUnits } from '../store/units';
import type { App } from './app';
import { operation } from './operation';
import { readDrives } from './readDrives';

export interface Found {
  readonly kind: 'unit' | 'drive';
  readonly unit: string;
  readonly title: string;
  readonly detail: string;
  /** Set for a drive: where on the unit's page it stands. */
  readonly bay?: string;
}

const MOST_FOUND = 12;

/** Units by name or place, drives by any part of the serial. */
export async function find(app: App, text: string): Promise<Found[]> {
  const wanted = text.replaceAll('\0', '').trim().slice(0, 80);
  if (wanted === '') return [];
  const has = (words: string): boolean => words.toLowerCase().includes(wanted.toLowerCase());
  const units = (await allUnits(app.db)).filter(({ state: { name, place } }) => has(`${name} ${place.site} ${place.room}`));
  const drives = await findDrives(app.db, wanted, MOST_FOUND);
  return [
    ...units.map(({ id, state: { name, place } }): Found => ({ kind: 'unit', unit: id, title: name, detail: `${place.site}, ${place.room}` })),
    ...drives.map(({ unit, unitName, bay, serial }): Found => ({ kind: 'drive', unit, title: serial, detail: `${unitName}, bay ${bay}`, bay })),
  ].slice(0, MOST_FOUND);
}

const findAnything = operation({
  method: 'GET',
  path: '/find',
  summary: 'Find units and drives; ?q= is part of a name, a place or a serial',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, query }) => ({ found: await find(app, query.get('q') ?? '') }),
});

/** Drives a list hands out at a time. */
const PAGE = 1000;

const listDrives = operation({
  method: 'GET',
  path: '/drives',
  summary: `Drives that stand in bays, by serial, ${String(PAGE)} at a time; ?from= is how many to skip`,
  needs: 'reader',
  scope: 'read',
  run: ({ app, query }) => {
    const from = Number(query.get('from') ?? 0);
    return Number.isInteger(from) && from >= 0 ? readDrives(app, from, PAGE) : Promise.resolve(refusal('bad-input', '"from" is a whole number, 0 and up.'));
  },
});

export const drives = [findAnything, listDrives];
