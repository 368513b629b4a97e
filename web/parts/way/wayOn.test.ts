import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { wayOn } from './wayOn';

/** What the form asks for itself, field by field: the way on is the field. */
const ASKED_IN_PLACE = new Set([
  'adds-groups',
  'adds-none',
  'adds-pairs',
  'already-registered',
  'already-that',
  'bands-cut-anew',
  'bands-inconsistent',
  'bay-empty',
  'bay-twice',
  'bay-unclear',
  'bay-unknown',
  'built-later',
  'copy-unknown',
  'data-set-unknown',
  'dial-taken',
  'does-not-fit',
  'drive-needed',
  'drive-too-large',
  'drive-unknown',
  'enclosure-exists',
  'file-system-unknown',
  'holds-unsaid',
  'later',
  'layout-empty',
  'layout-illegal',
  'level-unknown',
  'more-than-there',
  'name-taken',
  'no-bay',
  'no-free-bay-way',
  'not-a-spare',
  'not-found',
  'not-idle',
  'not-packed',
  'not-possible',
  'not-registered',
  'nothing-added',
  'nothing-to-move',
  'old-not-added',
  'pair-needed',
  'parity-added',
  'parity-too-small',
  'plan-exists',
  'plan-unknown',
  'pool-exists',
  'pool-unknown',
  'rebuilds-all',
  'reserve-too-large',
  'same-unit',
  'serial-missing',
  'shown-too-large',
  'stock-twice',
  'too-many-bays',
  'upkeep-unknown',
  'volume-unknown',
]);

/** Every code with which a plan or an entry is refused, as makers, rules of pools and the model write it. */
function codesIn(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return codesIn(path);
    if (!name.endsWith('.ts') || name.includes('test')) return [];
    return [...readFileSync(path, 'utf8').matchAll(/refusal\(\s*'([a-z-]+)'/g)].flatMap(([, code]) => code ?? []);
  });
}

describe('no refusal without its next step', () => {
  it('leads on from every code, or the form asks for what is lacking', () => {
    const codes = new Set(['core/plan/makers', 'core/pool', 'core/unit', 'core/driveLife'].flatMap(codesIn));
    expect(codes.size).toBeGreaterThan(80);
    expect([...codes].filter((code) => wayOn('u', code) === null && !ASKED_IN_PLACE.has(code)).sort()).toEqual([]);
  });

  it('leads to pages that are there', () => {
    const pages = new Set(readdirSync('web/app/(inside)/units/[id]'));
    for (const code of [
      'thinned',
      'pool-lost',
      'no-free-bay',
      'none-smaller',
      'erases',
      'packed',
      'larger-than-parity',
    ]) {
      const [, , , page] = (wayOn('u', code)?.href ?? '').split('/');
      expect([code, pages.has(page ?? '')]).toEqual([code, true]);
    }
    expect(wayOn('u', 'drive-too-small')?.href).toBe('/drives');
    expect(wayOn('u', 'unguarded')?.href).toBe('/units/u?view=copies');
    expect(wayOn('u', 'drive-needed')).toBeNull();
  });
});
