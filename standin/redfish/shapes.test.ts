import { afterDoings } from '../afterDoings';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { lived, type Truth } from '../truth';
import { unitsPlayed } from '../units';
import { resourcesOf, type Body } from './resources';
import { answerOf, newDesk, USER, type Service } from './service';
import { kindOf, shapeOf } from './shapes';

const NOW = Date.parse('2026-11-29T12:00:00Z');
const HOUR_MS = 3_600_000;
const UNITS = unitsPlayed(24, 1, NOW, process.cwd());
const ajv = new Ajv2020({ allErrors: true, allowUnionTypes: true });
const checks = new Map<string, ReturnType<typeof ajv.compile>>();

/** What is wrong with a resource by its shape, with its address. */
function faultsOf(body: Body): string[] {
  const kind = kindOf(body['@odata.type']);
  const shape = kind === undefined ? undefined : shapeOf(kind);
  const at = String(body['@odata.id']);
  if (kind === undefined || !shape) return [`${at}: no shape for ${String(body['@odata.type'])}`];
  const check = checks.get(kind) ?? ajv.compile(shape);
  checks.set(kind, check);
  return check(body)
    ? []
    : (check.errors ?? []).map(
        ({ instancePath, message = '', params }) => `${at}${instancePath} ${message} ${JSON.stringify(params)}`,
      );
}

/** Units as they are, with what befell them, and while they are busy with it. */
function everyState(): Truth[] {
  const [heron, , plover] = UNITS as [Truth, Truth, Truth];
  const swapped = afterDoings(
    heron,
    { do: 'pull', bay: '2' },
    { do: 'insert', bay: '2', serial: 'QH8-05102-V3KE', bytes: 8001563222016 },
  );
  const [box] = plover.unit.enclosures.slice(-1);
  const hurt = [
    afterDoings(heron, { do: 'sign', bay: '1' }),
    afterDoings(heron, { do: 'pull', bay: '1' }),
    swapped,
    lived(swapped, NOW + 5 * HOUR_MS),
    afterDoings(plover, { do: 'enclosure', name: box?.name ?? '', lost: true }),
    afterDoings(plover, { do: 'fail', bay: '1' }),
    lived(afterDoings(plover, { do: 'fail', bay: '1' }), NOW + 3 * HOUR_MS),
  ];
  return [...UNITS, ...hurt];
}

it('has every resource in the shape of its kind, whatever befell the unit', () => {
  let seen = 0;
  for (const truth of everyState())
    for (const body of resourcesOf(truth, NOW, NOW).values()) {
      expect(faultsOf(body)).toEqual([]);
      seen++;
    }
  expect(seen).toBeGreaterThan(1000);
});

it('has so what the service holds besides, as it is sent', () => {
  const service: Service = {
    base: '/unit-1',
    password: 'pass',
    desk: newDesk(NOW),
    now: () => NOW,
    truth: () => UNITS[0] as Truth,
    change: () => undefined,
    from: '127.0.0.1',
    page: 3,
    test: () => undefined,
  };
  const headers = { authorization: `Basic ${Buffer.from(`${USER}:pass`).toString('base64')}` };
  const ask = (method: string, path: string, text = ''): Body => {
    const [bare = '', query = ''] = path.split('?');
    return JSON.parse(
      answerOf(service, { method, path: bare, query: new URLSearchParams(query), headers, text }).text,
    ) as Body;
  };
  ask('POST', '/redfish/v1/SessionService/Sessions', JSON.stringify({ UserName: USER, Password: 'pass' }));
  ask(
    'POST',
    '/redfish/v1/EventService/Subscriptions',
    JSON.stringify({ Destination: 'https://127.0.0.1/told', Protocol: 'Redfish', Context: 'c' }),
  );
  const open = ['/redfish/v1/'];
  const seen = new Set<string>();
  const kinds = new Set<string | undefined>();
  for (let path = open.pop(); path !== undefined; path = open.pop()) {
    if (seen.has(path)) continue;
    seen.add(path);
    const body = ask('GET', path);
    expect(faultsOf(body)).toEqual([]);
    kinds.add(kindOf(body['@odata.type']));
    for (const [, next = ''] of JSON.stringify(body).matchAll(/"@odata\.(?:id|nextLink)":"\/unit-1([^"#]+)"/g))
      open.push(next);
  }
  for (const kind of [
    'Session',
    'EventDestination',
    'ManagerAccount',
    'Role',
    'Power',
    'Thermal',
    'Fan',
    'DriveMetrics',
  ])
    expect([...kinds]).toContain(kind);
});

it('takes no property and no word the standard does not have', () => {
  const drive = [...resourcesOf(UNITS[0] as Truth, NOW, NOW).values()].find(
    (body) => kindOf(body['@odata.type']) === 'Drive',
  ) as Body;
  expect(faultsOf(drive)).toEqual([]);
  expect(faultsOf({ ...drive, Serial: 'x' })[0]).toContain('additional');
  expect(faultsOf({ ...drive, MediaType: 'Tape' })[0]).toContain('allowed values');
  expect(faultsOf({ ...drive, CapacityBytes: -1 })[0]).toContain('>= 0');
  expect(faultsOf({ ...drive, '@odata.type': '#Drive.v1_17_0.Disk' })[0]).toContain('no shape');
  expect(kindOf('#DriveCollection.DriveCollection')).toBe('DriveCollection');
});
