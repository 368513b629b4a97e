import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { wayOn } from './wayOn';

/** What the form asks for itself, field by field: the way on is the field. */
const ASKED_IN_PLACE = new Set([
  'bands-cut-anew',
  'bands-inconsistent',
  'bay-empty',
  'bay-occupied',
  'bay-twice',
  'bay-unknown',
  'data-set-unknown',
  'dial-taken',
  'does-not-fit',
  'holds-unsaid',
  'pair-needed',
  'drive-in-pool',
  'drive-needed',
  'drive-too-large',
  'enclosure-exists',
  'file-system-unknown',
  'layout-illegal',
  'more-than-there',
  'name-taken',
  'no-bay',
  'no-free-bay-way',
  'not-a-spare',
  'not-found',
  'not-idle',
  'not-packed',
  'not-possible',
  'not-working',
  'nothing-added',
  'nothing-to-move',
  'old-not-added',
  'parity-added',
  'parity-too-small',
  'plan-exists',
  'plan-unknown',
  'pool-unknown',
  'rebuilds-all',
  'same-unit',
  'stock-twice',
  'too-many-bays',
  'adds-groups',
  'adds-none',
  'adds-pairs',
  'already-that',
  'level-unknown',
]);

/** Every code with which a plan is refused, as the makers and the rules of pools write it. */
function codesIn(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return codesIn(path);
    if (!name.endsWith('.ts') || name.includes('test')) return [];
    return [...readFileSync(path, 'utf8').matchAll(/refusal\(\s*'([a-z-]+)'/g)].flatMap(([, code]) => code ?? []);
  });
}

describe('no refusal of a plan without its next step', () => {
  it('leads on from every code, or the form asks for what is lacking', () => {
    const codes = new Set(['core/plan/makers', 'core/pool'].flatMap(codesIn));
    expect(codes.size).toBeGreaterThan(40);
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
