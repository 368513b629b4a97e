import { byUrgency } from '../core/upkeep/needsHands';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { planLayout } from '~/core/layout/planLayout';
import { isStaleDemo, openDemo } from '~/demo/open';
import { readShelf } from './units/readShelf';
import { readProfiles } from './app';
import { testShelf } from './testing/testShelf';

describe('readProfiles', () => {
  const folder = mkdtempSync(join(tmpdir(), 'profiles-'));
  cpSync('core/platform/profiles', folder, { recursive: true });
  afterAll(() => rmSync(folder, { recursive: true }));

  it('ships five, and takes a sixth that is added as JSON alone', () => {
    expect([...readProfiles(folder).keys()]).toEqual(['causeway', 'plain', 'reedbank', 'saltern', 'tidemill']);
    const sixth = {
      ...(JSON.parse(readFileSync(join(folder, 'plain.json'), 'utf8')) as object),
      id: 'osier',
      name: 'Osier',
      schemes: { mirror: { most: 2 } },
    };
    writeFileSync(join(folder, 'osier.json'), JSON.stringify(sixth));
    const profile = readProfiles(folder).get('osier');
    if (!profile) throw new Error('the sixth profile is not there');
    const plan = (count: number) =>
      planLayout(
        profile,
        'mirror',
        Array.from({ length: count }, (_, i) => ({ bay: String(i + 1), bytes: 8e12 })),
      );
    expect([plan(2).legal, plan(3).reasons[0]]).toEqual([
      true,
      'Takes at most 2 drives in one pool; 3 are in. Leave out 1.',
    ]);
  });

  it('says what is wrong with one that is none', () => {
    writeFileSync(join(folder, 'bad.json'), '{"id":"bad","colour":1}');
    expect(() => readProfiles(folder)).toThrow(/bad\.json is no platform profile: .*#\/colour is not a known field/);
  });
});

describe('the demo', () => {
  it('opens once, stands relative to now, and is stale a day later unless somebody has worked in it', async () => {
    const shelf = await testShelf();
    try {
      const now = new Date();
      const opened = await openDemo(shelf.app, now, 'first-key', 24);
      expect(opened.kind).toBe('open');
      expect(await openDemo(shelf.app, now, 'second-key', 24)).toEqual({ ...opened, isFresh: false });
      const { units, causes } = await readShelf(shelf.app, now, undefined, 0, 50, 50);
      expect(units.map(({ card }) => card.name).sort()).toEqual([
        'Bittern',
        'Coot',
        'Heron',
        'Plover',
        'Snipe',
        'Teal',
        'Wren',
      ]);
      const needs = byUrgency(causes.flatMap(({ first, others }) => [first, ...others]));
      expect(needs.map(({ code, title }) => `${title.split(' ·')[0] ?? ''} ${code}`)).toEqual([
        'Heron member-failed',
        'Wren no-margin',
        'Wren plan-open',
        'Coot sign-growing',
        'Plover near-full',
        'Bittern never-restored',
        'Bittern no-spare',
        'Plover upkeep-due',
        'Coot drive-old',
        'Teal drive-old',
      ]);
      expect((await shelf.ask('GET', '/units', 'first-key')).status).toBe(401);
      expect((await shelf.ask('GET', '/units', 'second-key')).status).toBe(200);

      const tomorrow = new Date(now.getTime() + 24 * 3600e3);
      expect([await isStaleDemo(shelf.app, now), await isStaleDemo(shelf.app, tomorrow)]).toEqual([false, true]);
      const heron = units.find(({ card }) => card.name === 'Heron');
      await shelf.ask('POST', `/units/${heron?.id ?? ''}/events`, 'second-key', {
        expectedVersion: heron?.version,
        event: { kind: 'drive-removed', serial: 'QH8-04417-77PX' },
      });
      expect(await isStaleDemo(shelf.app, tomorrow)).toBe(false);
    } finally {
      await shelf.close();
    }
  });

  it('does not open on a real shelf', async () => {
    const shelf = await testShelf();
    await shelf.cookieOf('owner');
    expect(await openDemo(shelf.app, new Date(), 'key', 24)).toEqual({ kind: 'not-a-demo' });
    await shelf.close();
  });
});
