import { enclosuresNamed } from '../unit/enclosures';
import { isRefusal } from '../value/refusal';
import { readRunning, type PoolInWords } from './readRunning';

const boxes = {
  enclosures: enclosuresNamed([
    { name: 'Head', bays: 4 },
    { name: 'Extension 1', bays: 4 },
  ]),
  profile: { unitPage: { counts: 'TiB', prints: 'TB' } as const },
};
const PAGE = `Head
Bay 1  QH8-1001-A  7.3 TB  Normal
Bay 2  QH8-1002-A  7.3 TB  Normal
Bay 3  Empty
Extension 1
Bay 1  QH8-1003-A  7.3 TB  Normal
Bay 4  QH8-1004-A  7.3 TB  Warning`;
const pool = (change: Partial<PoolInWords> = {}): PoolInWords => ({
  name: ' Pool 1 ',
  scheme: 'mirror',
  groupWidth: '4',
  members: 'Head 1-2',
  spares: '',
  shown: '7,2 TB',
  used: '3 TB',
  builtOn: '2021-03-04',
  volumes: 'Office share 10 TB thin\nScans, 500 GB',
  ...change,
});

it('reads drives box by box and pools with their volumes, by what the page counts in', () => {
  const running = readRunning(boxes, PAGE, [
    pool(),
    pool({
      name: 'Pool 2',
      members: 'Extension 1 1',
      spares: 'Extension 1 4',
      shown: '',
      used: '',
      builtOn: '',
      volumes: '',
    }),
  ]);
  expect(running).toEqual({
    cache: [],
    drives: ['1', '2', '5', '8'].map((bay, i) => ({
      bay,
      serial: `QH8-100${String(i + 1)}-A`,
      bytes: 8001563222016,
      basis: 'label',
      label: '8 TB',
      ...(i === 3 ? { shows: 'signs' } : {}),
    })),
    pools: [
      {
        name: 'Pool 1',
        scheme: 'mirror',
        members: ['1', '2'],
        shownBytes: Math.floor(7.2 * 2 ** 40),
        usedBytes: 3 * 2 ** 40,
        builtAt: '2021-03-04T00:00:00Z',
        volumes: [
          { name: 'Office share', bytes: 10 * 2 ** 40, thin: true },
          { name: 'Scans', bytes: 500 * 2 ** 30, thin: false },
        ],
      },
      { name: 'Pool 2', scheme: 'mirror', members: ['5'], spares: ['8'] },
    ],
  });
});

it('asks once for the age of all drives, and leaves it unknown', () => {
  const ages = (boughtOn?: string): unknown[] => {
    const running = readRunning(boxes, PAGE, [], boughtOn);
    return isRefusal(running) ? [] : running.drives.map((drive) => drive.boughtOn);
  };
  expect([ages('2021-03-04'), ages()]).toEqual([Array(4).fill('2021-03-04'), Array(4).fill(undefined)]);
});

it.each([
  ['Bay 1 QH8-1001-A 7.3 TB', pool(), 'line-unread', '/drives'],
  ['Head\nBay 1  QH8-1001-A  7.3 TB  Rebuilding', pool(), 'work-runs', '/drives'],
  ['Head\nBay 1  7.3 TB  Normal', pool(), 'serial-missing', '/drives'],
  ['Head\nBay 1  QH8-1001-A  Normal', pool(), 'size-missing', '/drives'],
  [`${PAGE}\nHead\nBay 2  QH8-1009-A  7.3 TB`, pool(), 'bay-twice', '/drives'],
  [PAGE, pool({ scheme: '' }), 'scheme-missing', '/pools/0/scheme'],
  [PAGE, pool({ members: 'Head 1-9' }), 'bay-unknown', '/pools/0/members'],
  [PAGE, pool({ members: '' }), 'members-missing', '/pools/0/members'],
  [PAGE, pool({ spares: '2' }), 'bay-unclear', '/pools/0/spares'],
  [PAGE, pool({ shown: 'plenty' }), 'size-unreadable', '/pools/0/shownBytes'],
  [PAGE, pool({ used: '3' }), 'size-unreadable', '/pools/0/usedBytes'],
  [PAGE, pool({ used: '7,210 GiB' }), 'size-either', '/pools/0/usedBytes'],
  [PAGE, pool({ volumes: 'Scans, 7,210 GiB' }), 'size-either', '/pools/0/volumes'],
  [PAGE, pool({ volumes: 'Office share' }), 'volume-unreadable', '/pools/0/volumes'],
])('guesses nothing: %#', (page, of, code, pointer) => {
  const running = readRunning(boxes, page, [of]);
  expect(isRefusal(running) && [running.code, running.pointer]).toEqual([code, pointer]);
});
