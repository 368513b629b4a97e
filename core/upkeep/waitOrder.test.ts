import { compareWaits, type Waited } from './waitOrder';

const wait = (
  task: Waited['task'],
  likely: string | null,
  found: ('stalled' | 'slowed' | 'restarted')[] = [],
): Waited => ({
  task,
  startedAt: '2026-01-01T00:00:00Z',
  estimate: likely === null ? null : { likely, found },
});

it('puts what is odd first, then what a pool is thin during, then what ends sooner', () => {
  const [scrub, odd, late, soon, unknown] = [
    wait('scrub', '2026-01-02'),
    wait('scrub', '2026-01-09', ['stalled']),
    wait('rebuild', '2026-01-05'),
    wait('rebuild', '2026-01-03'),
    wait('copy', null),
  ];
  expect([scrub, unknown, late, odd, soon].sort(compareWaits)).toEqual([odd, soon, late, unknown, scrub]);
});
