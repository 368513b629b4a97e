import { readdirSync, readFileSync } from 'node:fs';
import { OPEN, OPEN_BY_SECRET } from './open';

/** Pages anybody may see. A page that is not here is made by `insidePage`, or by `planPage` with it, which asks who is there. */
const OPEN_PAGES = ['(open)/enter/page.tsx', '(open)/sign-in/page.tsx', 'offline/page.tsx'];
/** Route handlers: the two doors that ask for themselves, the calendar and what units tell behind secrets, health, figures that ask for a token, and the worker that knows nothing of anybody. */
const ROUTES = [
  'api/auth/[...path]/route.ts',
  'api/health/route.ts',
  'api/v1/[...path]/route.ts',
  'calendar/[secret]/route.ts',
  'metrics/route.ts',
  'serwist/[path]/route.ts',
  'told/[secret]/route.ts',
];

const files = (readdirSync('web/app', { recursive: true }) as string[]).sort();
const named = (name: string): string[] => files.filter((file) => file.endsWith(`/${name}`));

it('makes every page that is not open by the one maker that asks who is there', () => {
  const inside = named('page.tsx').filter((file) => !OPEN_PAGES.includes(file));
  expect(inside.length).toBeGreaterThan(4);
  // What asks for a plan is made by the same maker.
  expect(readFileSync('web/server/planPage.tsx', 'utf8')).toMatch(/^ {2}return insidePage\(needs,/m);
  for (const file of inside)
    expect([
      file,
      /^export default (insidePage|planPage)\('(reader|keeper|owner)',/m.test(readFileSync(`web/app/${file}`, 'utf8')),
    ]).toEqual([file, true]);
});

it('has no route handler beside the known doors, and no server action at all', () => {
  expect(named('route.ts')).toEqual(ROUTES);
  const all = (readdirSync('web', { recursive: true }) as string[]).filter(
    (file) => /\.tsx?$/.test(file) && !file.startsWith('.next') && !file.endsWith('.test.ts'),
  );
  expect(all.filter((file) => /['"]use server['"]/.test(readFileSync(`web/${file}`, 'utf8')))).toEqual([]);
});

it('turns away whoever has no session everywhere but at the open pages', () => {
  expect(OPEN).toEqual(['/sign-in', '/enter', '/api/health', '/metrics', '/offline', '/serwist/sw.js']);
  expect(OPEN_BY_SECRET).toEqual(['/calendar/', '/told/']);
});
