import plain from '../platform/profiles/plain.json' with { type: 'json' };
import type { UnitEvent } from '../unit/event';
import { needsHands } from './needsHands';
import { afterEvents } from '../unit/testUnit';

const BEGUN = '2026-01-01T00:00:00.000Z';
const registered = {
  kind: 'unit-registered',
  name: 'Teal',
  place: { site: 'S', room: 'R' },
  profile: plain,
  enclosures: [{ name: 'Head', bays: ['1'] }],
};
const photos = { kind: 'data-set-described', dataSet: 'photos', name: 'Photos', bytes: 10e12 };
const copy = (more: object = {}) => ({
  kind: 'copy-described',
  dataSet: 'photos',
  copy: 'a',
  where: 'Barn',
  keeps: 'versions',
  offSite: true,
  everyDays: 7,
  ...more,
});
const heard = (outcome: string, more: object = {}) => ({
  kind: 'copy-confirmed',
  dataSet: 'photos',
  copy: 'a',
  outcome,
  ...more,
});

/** The troubles with copies so many days after the last thing was said, most urgent first. */
function troubles(days: number, ...events: object[]): string[] {
  const state = afterEvents(null, [registered, photos, ...events] as UnitEvent[], BEGUN);
  const now = new Date(Date.parse(BEGUN) + days * 86_400_000).toISOString();
  return needsHands([{ id: 'Teal', state, used: {} }], [], now)
    .filter(({ code }) => /copy|mirrors|off-site|restore/.test(code))
    .map(({ code }) => code);
}

// Three copies, one off site, tried now and then, is common practice; each step away from it is said.
it.each<readonly [string, number, readonly object[], readonly string[]]>([
  ['nothing is copied', 0.1, [], ['no-copy']],
  ['all is well', 1, [copy(), heard('ran'), heard('restore-worked')], []],
  ['it runs as often as it is meant to', 13, [copy(), heard('ran'), heard('restore-worked')], []],
  ['it has not run for twice as long', 15, [copy(), heard('ran'), heard('restore-worked')], ['copy-old']],
  ['it never ran', 15, [copy()], ['copy-old', 'never-restored']],
  ['it failed', 1, [copy(), heard('ran'), heard('restore-worked'), heard('failed')], ['copy-failed']],
  ['it failed, and ran again', 1, [copy(), heard('failed'), heard('ran'), heard('restore-worked')], []],
  ['a restore did not work', 1, [copy(), heard('ran'), heard('restore-failed')], ['restore-failed']],
  ['it keeps no versions', 1, [copy({ keeps: 'mirror' }), heard('ran'), heard('restore-worked')], ['only-mirrors']],
  ['it is in the same house', 1, [copy({ offSite: false }), heard('ran'), heard('restore-worked')], ['none-off-site']],
  ['a tenth of it is free there', 1, [copy(), heard('ran', { freeBytes: 1e12 }), heard('restore-worked')], []],
  [
    'less than a tenth of it is free there',
    1,
    [copy(), heard('ran', { freeBytes: 0.99e12 }), heard('restore-worked')],
    ['copy-target-full'],
  ],
  ['it is no longer kept', 1, [copy(), { kind: 'copy-removed', dataSet: 'photos', copy: 'a' }], ['no-copy']],
  ['the data is gone from the register', 1, [copy(), { kind: 'data-set-removed', dataSet: 'photos' }], []],
])('%s', (_what, days, events, codes) => {
  expect(troubles(days, ...events)).toEqual(codes);
});
