import { isRefusal } from '../../core/value/refusal';
import { done, type Doing, type Truth } from '../truth';
import { unitsPlayed } from '../units';
import { toldBetween } from './events';
import { answerOf, newDesk, USER, type Asked, type Service } from './service';

/** What a Redfish service has to do is from the Redfish specification (DMTF DSP0266), from memory. */

const NOW = Date.parse('2026-11-29T12:00:00Z');
const [HERON, COOT, PLOVER, WREN] = unitsPlayed(4, 1, NOW, process.cwd()) as [Truth, Truth, Truth, Truth];
const KEY = `Basic ${Buffer.from(`${USER}:pass`).toString('base64')}`;

function serviceOf(first: Truth, base = '/unit-1', page = 50): Service {
  let truth = first;
  return {
    base,
    password: 'pass',
    desk: newDesk(NOW),
    now: () => NOW,
    truth: () => truth,
    change: (next) => {
      truth = next;
    },
    from: '127.0.0.1',
    page,
    test: () => undefined,
  };
}

function ask(service: Service, method: string, path: string, more: Partial<Asked> = {}) {
  const [bare = '', query = ''] = path.split('?');
  const given = answerOf(service, {
    method,
    path: bare,
    query: new URLSearchParams(query),
    headers: { authorization: KEY, ...more.headers },
    text: more.text ?? '',
  });
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- tests reach into answers of any shape
  return { ...given, body: (given.text.startsWith('{') ? JSON.parse(given.text) : {}) as Record<string, any> };
}

const DRIVES = '/redfish/v1/Systems/1/Storage/1/Drives';

it('is found without a key, and lets in nobody without one', () => {
  const service = serviceOf(HERON);
  const open = { headers: { authorization: undefined } };
  expect(ask(service, 'GET', '/redfish', open).body).toEqual({ v1: '/unit-1/redfish/v1/' });
  for (const path of ['/redfish/v1', '/redfish/v1/', '/redfish/v1/odata', '/redfish/v1/$metadata'])
    expect(ask(service, 'GET', path, open).status).toBe(200);
  for (const path of ['/redfish/v1/Systems', DRIVES + '/1', '/redfish/v1/SessionService/Sessions']) {
    const no = ask(service, 'GET', path, open);
    expect([no.status, no.headers['www-authenticate']]).toEqual([401, 'Basic realm="unit"']);
    expect(no.body['error']['@Message.ExtendedInfo'][0].MessageId).toMatch(/^Base\.1\.\d+\.InsufficientPrivilege$/);
  }
});

it('answers every address it links to, each with its id, its type and a tag that stays', () => {
  for (const truth of [HERON, COOT, PLOVER, WREN]) {
    const service = serviceOf(truth);
    const seen = new Map<string, string>();
    const open = ['/unit-1/redfish/v1/'];
    while (open.length > 0) {
      const path = open.pop() as string;
      if (seen.has(path)) continue;
      const { status, body, headers } = ask(service, 'GET', path.slice('/unit-1'.length));
      expect([path, status]).toEqual([path, 200]);
      expect(body['@odata.id']).toBe(path);
      expect(body['@odata.type']).toMatch(/^#\w+\.(v\d+_\d+_\d+\.)?\w+$/);
      expect(headers).toMatchObject({ 'odata-version': '4.0', etag: body['@odata.etag'] });
      if (Array.isArray(body['Members'])) expect(body['Members@odata.count']).toBe(body['Members'].length);
      else expect(body).toMatchObject({ Id: expect.any(String), Name: expect.any(String) });
      seen.set(path, headers['etag'] as string);
      const walk = (value: unknown): void => {
        if (typeof value !== 'object' || value === null) return;
        const id = (value as Record<string, unknown>)['@odata.id'];
        // A part of a resource is named behind a #, which no client sends.
        if (typeof id === 'string') open.push(id.split('#')[0] ?? '');
        for (const part of Object.values(value)) walk(part);
      };
      walk(body);
    }
    for (const [path, etag] of seen)
      expect(ask(service, 'GET', path.slice('/unit-1'.length)).headers['etag']).toBe(etag);
    // Every bay, and something of everything the unit is made of.
    expect([...seen.keys()].filter((path) => /Drives\/[^/]+$/.test(path))).toHaveLength(
      truth.unit.enclosures.flatMap(({ bays }) => bays).length,
    );
    for (const part of [/Volumes\/1$/, /StoragePools\/1$/, /PowerSupplies\/1$/, /Fans\/1$/, /Managers\/1$/, /Roles\//])
      expect([...seen.keys()].some((path) => part.test(path))).toBe(true);
  }
});

it('tells a drive as it is: well, sick, failed, spare, being written, and a bay with none', () => {
  const drive = (truth: Truth, bay: number) => ask(serviceOf(truth), 'GET', `${DRIVES}/${String(bay)}`).body;
  expect(drive(HERON, 1)).toMatchObject({
    SerialNumber: 'QH8-04422-4KH2',
    CapacityBytes: 8001563222016,
    Status: { State: 'Enabled', Health: 'OK' },
    FailurePredicted: false,
    MediaType: 'HDD',
  });
  expect(drive(HERON, 2)).toMatchObject({ Status: { Health: 'Critical' }, StatusIndicator: 'Fail' });
  expect(drive(COOT, 3)).toMatchObject({
    Status: { Health: 'Warning' },
    FailurePredicted: true,
    StatusIndicator: 'PredictiveFailureAnalysis',
  });
  expect(drive(COOT, 6)).toMatchObject({ Status: { State: 'Absent' }, SerialNumber: null });
  expect(drive(PLOVER, 19)).toMatchObject({ HotspareType: 'Dedicated', Status: { State: 'StandbySpare' } });
  expect(drive(WREN, 2)).toMatchObject({
    StatusIndicator: 'Rebuild',
    Operations: [{ OperationName: 'Rebuild', PercentageComplete: 62 }],
  });
  const volume = ask(serviceOf(WREN), 'GET', '/redfish/v1/Systems/1/Storage/1/Volumes/1').body;
  expect(volume).toMatchObject({
    RAIDType: 'RAID1',
    Status: { Health: 'Warning' },
    Operations: [{ PercentageComplete: 62 }],
  });
});

it('writes out what it links to, picks properties, and cuts collections in pages', () => {
  const service = serviceOf(PLOVER, '/unit-1', 7);
  const storage = ask(service, 'GET', '/redfish/v1/Systems/1/Storage/1?$expand=.($levels=2)').body;
  expect(storage['Drives'][0]).toMatchObject({
    SerialNumber: expect.any(String),
    Metrics: { PowerOnHours: expect.any(Number) },
  });
  // Levels count, and links stay links where only what is below was asked for.
  const one = ask(service, 'GET', '/redfish/v1/Systems/1/Storage/1?$expand=.').body;
  expect(Object.keys(one['Drives'][0]['Metrics'])).toEqual(['@odata.id']);
  expect(Object.keys(one['Links']['Enclosures'][0])).toEqual(['@odata.id']);
  expect(ask(service, 'GET', '/redfish/v1/Systems/1/Storage/1?$expand=~').body['Links']['Enclosures'][0].Name).toBe(
    'Head',
  );
  expect(Object.keys(ask(service, 'GET', `${DRIVES}/1?$select=SerialNumber`).body).sort()).toEqual([
    '@odata.etag',
    '@odata.id',
    '@odata.type',
    'SerialNumber',
  ]);
  const path = '/redfish/v1/Chassis/Head/Drives';
  const found: string[] = [];
  for (let next: string | undefined = path; next !== undefined;) {
    const { body } = ask(service, 'GET', next);
    expect(body['Members'].length).toBeLessThanOrEqual(7);
    found.push(...(body['Members'] as { '@odata.id': string }[]).map((member) => member['@odata.id']));
    next = (body['Members@odata.nextLink'] as string | undefined)?.slice('/unit-1'.length);
  }
  expect([found.length, new Set(found).size]).toEqual([12, 12]);
  expect(ask(service, 'GET', `${path}?$top=2&$skip=3`).body['Members']).toHaveLength(2);
  expect(ask(service, 'GET', '/redfish/v1/Systems?only').body['Id']).toBe('1');
});

it('says no in the standard’s words', () => {
  const service = serviceOf(HERON);
  const told = (method: string, path: string, more?: Partial<Asked>) => {
    const { status, body } = ask(service, method, path, more);
    return `${String(status)} ${String(body['error']?.code).split('.').at(-1) ?? ''}`;
  };
  expect(told('GET', '/redfish/v1/Nowhere')).toBe('404 ResourceMissingAtURI');
  expect(told('GET', '/elsewhere')).toBe('404 ResourceMissingAtURI');
  expect(told('GET', '/redfish/v1/Systems?$filter=x')).toBe('501 QueryNotSupported');
  expect(told('GET', '/redfish/v1/Systems?$expand=no')).toBe('400 QueryParameterValueFormatError');
  expect(told('DELETE', '/redfish/v1/Systems')).toBe('405 OperationNotAllowed');
  expect(told('GET', '/redfish/v1/Systems', { headers: { 'odata-version': '3.0' } })).toBe('412 GeneralError');
  expect(told('PATCH', `${DRIVES}/1`, { text: '{' })).toBe('400 MalformedJSON');
  expect(told('PATCH', `${DRIVES}/1`, { text: '{"SerialNumber":"x"}' })).toBe('400 PropertyNotWritable');
  expect(told('PATCH', `${DRIVES}/1`, { text: '{"Colour":1}' })).toBe('400 PropertyUnknown');
  const wrong = ask(serviceOf(COOT), 'PATCH', `${DRIVES}/1`, { text: '{"LocationIndicatorActive":"on"}' });
  expect(wrong.body['error'].code).toMatch(/PropertyValueTypeError$/);
  expect(ask(service, 'DELETE', '/redfish/v1/Systems').headers['allow']).toBe('GET, HEAD, OPTIONS');
});

it('switches a light for whoever has seen the drive as it is, and answers 304 to who has it already', () => {
  const service = serviceOf(COOT);
  const on = '{"LocationIndicatorActive":true}';
  const first = ask(service, 'GET', `${DRIVES}/2`);
  const etag = first.headers['etag'] as string;
  expect(ask(service, 'GET', `${DRIVES}/2`, { headers: { 'if-none-match': etag } }).status).toBe(304);
  expect(ask(service, 'PATCH', `${DRIVES}/2`, { text: on, headers: { 'if-match': '"other"' } }).status).toBe(412);
  const lit = ask(service, 'PATCH', `${DRIVES}/2`, { text: on, headers: { 'if-match': etag } });
  expect([lit.status, lit.body['LocationIndicatorActive']]).toEqual([200, true]);
  expect(ask(service, 'GET', `${DRIVES}/2`, { headers: { 'if-none-match': etag } }).status).toBe(200);
  expect(ask(service, 'PATCH', `${DRIVES}/2`, { text: on, headers: { 'if-match': etag } }).status).toBe(412);
  // A family without one has no such property, and cannot be told to switch it.
  const { profile } = HERON.unit;
  const dark = {
    ...HERON,
    unit: { ...HERON.unit, profile: { ...profile, service: { ...profile.service, locateLight: false } } },
  };
  expect('LocationIndicatorActive' in ask(serviceOf(dark), 'GET', `${DRIVES}/2`).body).toBe(false);
  expect(ask(serviceOf(dark), 'PATCH', `${DRIVES}/2`, { text: on }).status).toBe(400);
});

it('opens sessions and ends them', () => {
  const service = serviceOf(HERON);
  const open = (body: object) =>
    ask(service, 'POST', '/redfish/v1/SessionService/Sessions', {
      headers: { authorization: undefined },
      text: JSON.stringify(body),
    });
  expect(open({ UserName: USER, Password: 'wrong' }).status).toBe(401);
  expect(open({ UserName: USER }).status).toBe(400);
  const made = open({ UserName: USER, Password: 'pass' });
  expect([made.status, made.body['UserName'], 'Password' in made.body]).toEqual([201, USER, false]);
  const token = made.headers['x-auth-token'];
  const path = (made.headers['location'] as string).slice('/unit-1'.length);
  const with_ = { headers: { authorization: undefined, 'x-auth-token': token } };
  expect(ask(service, 'GET', '/redfish/v1/Systems', with_).status).toBe(200);
  expect(ask(service, 'DELETE', path, with_).status).toBe(204);
  expect(ask(service, 'GET', '/redfish/v1/Systems', with_).status).toBe(401);
});

it('takes subscriptions for this machine alone', () => {
  const service = serviceOf(HERON);
  const subscribe = (body: object) =>
    ask(service, 'POST', '/redfish/v1/EventService/Subscriptions', { text: JSON.stringify(body) });
  const wish = { Destination: 'http://127.0.0.1:9/events', Protocol: 'Redfish', Context: 'mine' };
  const made = subscribe(wish);
  expect([made.status, made.body['Context']]).toEqual([201, 'mine']);
  expect(ask(service, 'GET', (made.headers['location'] as string).slice('/unit-1'.length)).status).toBe(200);
  for (const bad of [
    {},
    { ...wish, Protocol: 'SMTP' },
    { ...wish, Destination: 'http://10.0.0.1/' },
    { ...wish, Odd: 1 },
  ])
    expect(subscribe(bad).status).toBe(400);
});

it('tells of what changed, and of nothing while work goes on', () => {
  const after = (truth: Truth, doing: Doing): Truth => {
    const next = done(truth, doing);
    if (isRefusal(next)) throw new Error(next.sentence);
    return next;
  };
  const told = toldBetween(HERON, after(HERON, { do: 'fail', bay: '3' }));
  expect(told.map(({ origin, severity }) => [origin, severity])).toEqual(
    expect.arrayContaining([[`${DRIVES}/3`, 'Critical']]),
  );
  expect(toldBetween(HERON, HERON)).toEqual([]);
  const pulled = toldBetween(HERON, after(HERON, { do: 'pull', bay: '1' }));
  expect(pulled.map(({ origin }) => origin)).toContain(`${DRIVES}/1`);
});
