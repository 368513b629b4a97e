import { createHash, randomUUID, timingSafeEqual } from 'node:crypto';
import { baysOf } from '../../core/unit/state';
import { isRefusal } from '../../core/value/refusal';
import { done, type Truth } from '../truth';
import { answer, failure, type Answer } from './message';
import { metadata } from './metadata';
import { expanded, MOST_LEVELS, paged, readQuery, selected } from './query';
import { bayOfPath, resourcesOf, ROOT_PATH, type Body } from './resources';

export const USER = 'keeper';

export interface Asked {
  readonly method: string;
  /** Below the unit's own base, without what stands behind the question mark. */
  readonly path: string;
  readonly query: URLSearchParams;
  readonly headers: Readonly<Record<string, string | undefined>>;
  readonly text: string;
}

export interface Subscription {
  readonly id: string;
  readonly destination: string;
  readonly context: string | null;
  readonly headers: Readonly<Record<string, string>>;
}

/** What a service holds besides its unit: who is signed in, and who is to be told. Gone when it starts anew. */
export interface Desk {
  readonly id: string;
  readonly bootedAt: number;
  readonly sessions: Map<string, { readonly token: string; readonly at: number; readonly address: string }>;
  readonly subscriptions: Map<string, Subscription>;
}

export function newDesk(now: number): Desk {
  return { id: randomUUID(), bootedAt: now, sessions: new Map(), subscriptions: new Map() };
}

/** A unit, how it is reached, and what its service holds. */
export interface Service {
  /** "" or "/unit-3": what stands before the standard's own addresses. */
  readonly base: string;
  readonly password: string;
  readonly desk: Desk;
  readonly now: () => number;
  readonly truth: () => Truth;
  readonly change: (truth: Truth) => void;
  readonly from: string;
  /** Members of a collection to a page. */
  readonly page: number;
  /** A test event was asked for. */
  readonly test: () => void;
}

const MOST_SESSIONS = 32;
const MOST_SUBSCRIPTIONS = 20;
const SESSIONS = `${ROOT_PATH}/SessionService/Sessions`;
const SUBSCRIPTIONS = `${ROOT_PATH}/EventService/Subscriptions`;
const TEST_EVENT = `${ROOT_PATH}/EventService/Actions/EventService.SubmitTestEvent`;
const CHALLENGE = { 'www-authenticate': 'Basic realm="unit"' };
const READS = 'GET, HEAD';

/** Answers one request, as DSP0266 has it. */
export function answerOf(service: Service, asked: Asked): Answer {
  const path = asked.path.length > 1 ? asked.path.replace(/\/$/, '') : asked.path;
  const isRead = asked.method === 'GET' || asked.method === 'HEAD';
  const version = asked.headers['odata-version'];
  if (version !== undefined && version !== '4.0') return failure(412, 'GeneralError');
  // Open to everybody: how to find the service, and the door itself.
  const open = openTo(service, path);
  if (open && !isRead) return failure(405, 'OperationNotAllowed', [], { allow: READS });
  if (open) return typeof open === 'string' ? document(open) : plain(service, asked, open);
  if (!path.startsWith(`${ROOT_PATH}/`)) return failure(404, 'ResourceMissingAtURI', [service.base + asked.path]);
  if (path === SESSIONS && asked.method === 'POST') return signIn(service, asked);
  if (!isLetIn(service, asked)) return failure(401, 'InsufficientPrivilege', [], CHALLENGE);
  const all = everything(service);
  const body = all.get(path);
  if (path === TEST_EVENT && asked.method === 'POST') {
    service.test();
    return answer(204, null);
  }
  if (!body) return failure(404, 'ResourceMissingAtURI', [service.base + asked.path]);
  const allow = allowed(path);
  if (!allow.includes(asked.method)) return failure(405, 'OperationNotAllowed', [], { allow: allow.join(', ') });
  if (asked.method === 'OPTIONS') return answer(204, null, { allow: allow.join(', ') });
  if (asked.method === 'POST') return subscribe(service, asked);
  if (asked.method === 'DELETE') {
    const id = path.slice(path.lastIndexOf('/') + 1);
    service.desk[path.startsWith(SESSIONS) ? 'sessions' : 'subscriptions'].delete(id);
    return answer(204, null);
  }
  if (asked.method === 'PATCH') return patch(service, asked, path, body);
  return read(service, asked, all, body, allow);
}

function document(text: string): Answer {
  const xml = answer(200, null, { 'content-type': 'application/xml; charset=utf-8' });
  return { ...xml, text };
}

function plain(service: Service, asked: Asked, body: Body): Answer {
  const all = new Map([[String(body['@odata.id'] ?? ''), body]]);
  return '@odata.id' in body ? read(service, asked, all, body, ['GET', 'HEAD']) : answer(200, body);
}

function openTo(service: Service, path: string): Body | string | undefined {
  if (path === '/redfish') return { v1: `${service.base}${ROOT_PATH}/` };
  if (path === ROOT_PATH) return rootOf(service);
  if (path === `${ROOT_PATH}/odata`) return odataOf(service);
  return path === `${ROOT_PATH}/$metadata` ? metadata() : undefined;
}

const LINKS = ['Systems', 'Chassis', 'Managers', 'SessionService', 'AccountService', 'EventService'] as const;

function rootOf({ desk, truth }: Service): Body {
  return {
    '@odata.id': `${ROOT_PATH}/`,
    '@odata.type': '#ServiceRoot.v1_16_0.ServiceRoot',
    Id: 'RootService',
    Name: 'Root service',
    RedfishVersion: '1.18.0',
    UUID: desk.id,
    Product: truth().unit.profile.name,
    Vendor: 'Marrowfen',
    ProtocolFeaturesSupported: {
      ExpandQuery: { ExpandAll: true, Levels: true, Links: true, NoLinks: true, MaxLevels: MOST_LEVELS },
      SelectQuery: true,
      FilterQuery: false,
      ExcerptQuery: false,
      OnlyMemberQuery: true,
      TopSkipQuery: true,
    },
    ...Object.fromEntries(LINKS.map((name) => [name, { '@odata.id': `${ROOT_PATH}/${name}` }])),
    Links: { Sessions: { '@odata.id': SESSIONS } },
  };
}

function odataOf({ base }: Service): Body {
  return {
    '@odata.context': `${base}${ROOT_PATH}/$metadata`,
    value: [
      { name: 'Service', kind: 'Singleton', url: `${base}${ROOT_PATH}/` },
      ...LINKS.map((name) => ({ name, kind: 'Singleton', url: `${base}${ROOT_PATH}/${name}` })),
    ],
  };
}

/** The unit's resources, with those of the service itself. */
function everything({ desk, truth, now }: Service): Map<string, Body> {
  const all = new Map(resourcesOf(truth(), desk.bootedAt, now()));
  const put = (path: string, type: string, id: string, name: string, body: Body): void => {
    all.set(path, { '@odata.id': path, '@odata.type': `#${type}`, Id: id, Name: name, ...body });
  };
  const collect = (path: string, type: string, name: string, members: readonly string[]): void => {
    all.set(path, {
      '@odata.id': path,
      '@odata.type': `#${type}Collection.${type}Collection`,
      Name: name,
      'Members@odata.count': members.length,
      Members: members.map((id) => ({ '@odata.id': id })),
    });
  };
  const enabled = { State: 'Enabled', Health: 'OK' };
  put(`${ROOT_PATH}/SessionService`, 'SessionService.v1_1_9.SessionService', 'SessionService', 'Sessions', {
    ServiceEnabled: true,
    SessionTimeout: SESSION_SECONDS,
    Status: enabled,
    Sessions: { '@odata.id': SESSIONS },
  });
  collect(
    SESSIONS,
    'Session',
    'Sessions',
    [...desk.sessions.keys()].map((id) => `${SESSIONS}/${id}`),
  );
  for (const [id, { at }] of desk.sessions)
    put(`${SESSIONS}/${id}`, 'Session.v1_7_1.Session', id, 'Session', {
      UserName: USER,
      CreatedTime: new Date(at).toISOString(),
    });
  const accounts = `${ROOT_PATH}/AccountService`;
  put(accounts, 'AccountService.v1_15_0.AccountService', 'AccountService', 'Accounts', {
    ServiceEnabled: true,
    Status: enabled,
    Accounts: { '@odata.id': `${accounts}/Accounts` },
    Roles: { '@odata.id': `${accounts}/Roles` },
  });
  collect(`${accounts}/Accounts`, 'ManagerAccount', 'Accounts', [`${accounts}/Accounts/1`]);
  put(`${accounts}/Accounts/1`, 'ManagerAccount.v1_12_0.ManagerAccount', '1', 'Account', {
    UserName: USER,
    Password: null,
    RoleId: 'Operator',
    Enabled: true,
    Locked: false,
    AccountTypes: ['Redfish'],
    Links: { Role: { '@odata.id': `${accounts}/Roles/Operator` } },
  });
  collect(`${accounts}/Roles`, 'Role', 'Roles', [`${accounts}/Roles/Operator`]);
  put(`${accounts}/Roles/Operator`, 'Role.v1_3_1.Role', 'Operator', 'Operator', {
    RoleId: 'Operator',
    IsPredefined: true,
    AssignedPrivileges: ['Login', 'ConfigureComponents', 'ConfigureSelf'],
  });
  put(`${ROOT_PATH}/EventService`, 'EventService.v1_10_1.EventService', 'EventService', 'Events', {
    ServiceEnabled: true,
    Status: enabled,
    DeliveryRetryAttempts: 3,
    DeliveryRetryIntervalSeconds: 2,
    EventFormatTypes: ['Event'],
    RegistryPrefixes: ['ResourceEvent'],
    ResourceTypes: ['Drive', 'Volume', 'Chassis', 'PowerSupply', 'Fan'],
    Subscriptions: { '@odata.id': SUBSCRIPTIONS },
    Actions: { '#EventService.SubmitTestEvent': { target: TEST_EVENT } },
  });
  collect(
    SUBSCRIPTIONS,
    'EventDestination',
    'Subscriptions',
    [...desk.subscriptions.keys()].map((id) => `${SUBSCRIPTIONS}/${id}`),
  );
  for (const { id, destination, context } of desk.subscriptions.values())
    put(`${SUBSCRIPTIONS}/${id}`, 'EventDestination.v1_14_1.EventDestination', id, 'Subscription', {
      Destination: destination,
      Protocol: 'Redfish',
      SubscriptionType: 'RedfishEvent',
      EventFormatType: 'Event',
      Context: context,
      Status: enabled,
    });
  return all;
}

function allowed(path: string): string[] {
  const under = (of: string): boolean => path.startsWith(`${of}/`);
  const more =
    path === SESSIONS || path === SUBSCRIPTIONS
      ? ['POST']
      : under(SESSIONS) || under(SUBSCRIPTIONS)
        ? ['DELETE']
        : bayOfPath(path) !== undefined
          ? ['PATCH']
          : [];
  return ['GET', 'HEAD', 'OPTIONS', ...more];
}

function read(
  service: Service,
  asked: Asked,
  all: ReadonlyMap<string, Body>,
  found: Body,
  allow: readonly string[],
): Answer {
  const query = readQuery(asked.query);
  if ('unsupported' in query) return failure(501, 'QueryNotSupported');
  if ('wrong' in query) return failure(400, 'QueryParameterValueFormatError', [query.value, query.wrong]);
  let body = found;
  const members = body['Members'];
  if (query.only) {
    if (!Array.isArray(members)) return failure(400, 'QueryNotSupported');
    const [first] = members as Body[];
    if (members.length === 1 && first) body = all.get(String(first['@odata.id'])) ?? body;
  }
  body = paged(body, query, service.page);
  if (query.expand) body = expanded(body, query.expand, (path) => all.get(path.replace(/\/$/, '')));
  const etag = etagOf(found);
  if (query.select) body = selected(body, query.select);
  const headers = {
    etag,
    allow: allow.join(', '),
    link: `<${service.base}${ROOT_PATH}/$metadata#${String(body['@odata.type']).slice(1)}>; rel=describedby`,
  };
  const known = asked.headers['if-none-match'];
  if (known !== undefined && known.split(',').some((one) => one.trim() === etag || one.trim() === '*'))
    return answer(304, null, headers);
  const based = withBase({ ...body, '@odata.etag': etag }, service.base);
  const text = answer(200, based as Body, headers);
  return asked.method === 'HEAD' ? { ...text, text: '' } : text;
}

/** Addresses as they are reached from outside. */
function withBase(value: unknown, base: string): unknown {
  if (base === '') return value;
  if (typeof value === 'string') return value.startsWith(`${ROOT_PATH}/`) ? base + value : value;
  if (Array.isArray(value)) return value.map((one) => withBase(one, base));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([name, part]) => [name, withBase(part, base)]));
}

function etagOf(body: Body): string {
  return `"${createHash('sha256').update(JSON.stringify(body)).digest('base64url').slice(0, 20)}"`;
}

function isLetIn({ desk, password, now }: Service, { headers }: Asked): boolean {
  const token = headers['x-auth-token'];
  if (token !== undefined) {
    for (const [id, session] of desk.sessions) {
      if (now() - session.at > SESSION_SECONDS * 1000) desk.sessions.delete(id);
      else if (isSame(session.token, token)) return true;
    }
    return false;
  }
  const [, basic] = /^Basic +([A-Za-z0-9+/=]+)$/i.exec(headers['authorization'] ?? '') ?? [];
  return basic !== undefined && isSame(Buffer.from(basic, 'base64').toString(), `${USER}:${password}`);
}

/** As long as a session lives, seconds; the longest the standard has for it. */
const SESSION_SECONDS = 86_400;

function isSame(a: string, b: string): boolean {
  const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(a), digest(b));
}

function bodyOf(text: string): Body | undefined {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Body) : undefined;
  } catch {
    return undefined;
  }
}

function signIn(service: Service, asked: Asked): Answer {
  const body = bodyOf(asked.text);
  if (!body) return failure(400, 'MalformedJSON');
  for (const name of ['UserName', 'Password'])
    if (typeof body[name] !== 'string') return failure(400, 'PropertyMissing', [name], {}, name);
  if (body['UserName'] !== USER || !isSame(body['Password'] as string, service.password))
    return failure(401, 'InsufficientPrivilege', [], CHALLENGE);
  const { sessions } = service.desk;
  if (sessions.size >= MOST_SESSIONS) return failure(503, 'CreateLimitReachedForResource', [], { 'retry-after': '60' });
  const [id, token] = [randomUUID(), randomUUID() + randomUUID()];
  sessions.set(id, { token, at: service.now(), address: service.from });
  const path = `${SESSIONS}/${id}`;
  const made = everything(service).get(path) as Body;
  return answer(201, withBase(made, service.base) as Body, {
    location: service.base + path,
    'x-auth-token': token,
  });
}

/** Only this machine is told: it is a stand-in, and no way into a network. */
function isNearby(destination: string): boolean {
  try {
    const { protocol, hostname } = new URL(destination);
    return (protocol === 'http:' || protocol === 'https:') && ['127.0.0.1', 'localhost', '[::1]'].includes(hostname);
  } catch {
    return false;
  }
}

const SUBSCRIPTION_PROPERTIES = new Set([
  'Destination',
  'Protocol',
  'Context',
  'EventFormatType',
  'SubscriptionType',
  'RegistryPrefixes',
  'ResourceTypes',
  'OriginResources',
  'DeliveryRetryPolicy',
  'HttpHeaders',
  'Name',
  'EventTypes',
]);

function subscribe(service: Service, asked: Asked): Answer {
  const body = bodyOf(asked.text);
  if (!body) return failure(400, 'MalformedJSON');
  for (const name of ['Destination', 'Protocol'])
    if (typeof body[name] !== 'string') return failure(400, 'PropertyMissing', [name], {}, name);
  const odd = Object.keys(body).find((name) => !SUBSCRIPTION_PROPERTIES.has(name));
  if (odd !== undefined) return failure(400, 'PropertyUnknown', [odd], {}, odd);
  if (body['Protocol'] !== 'Redfish')
    return failure(400, 'PropertyValueNotInList', [String(body['Protocol']), 'Protocol'], {}, 'Protocol');
  const destination = body['Destination'] as string;
  if (!isNearby(destination))
    return failure(400, 'PropertyValueNotInList', [destination, 'Destination'], {}, 'Destination');
  const { subscriptions } = service.desk;
  if (subscriptions.size >= MOST_SUBSCRIPTIONS) return failure(503, 'CreateLimitReachedForResource');
  const context = body['Context'];
  const given = Array.isArray(body['HttpHeaders']) ? (body['HttpHeaders'] as Body[]) : [];
  const headers = Object.fromEntries(
    given.flatMap((one) => Object.entries(one)).filter((pair): pair is [string, string] => typeof pair[1] === 'string'),
  );
  const id = randomUUID();
  subscriptions.set(id, { id, destination, context: typeof context === 'string' ? context : null, headers });
  const path = `${SUBSCRIPTIONS}/${id}`;
  return answer(201, withBase(everything(service).get(path), service.base) as Body, { location: service.base + path });
}

/** Of a drive the locate light can be changed, and nothing else. */
function patch(service: Service, asked: Asked, path: string, found: Body): Answer {
  const expects = asked.headers['if-match'];
  if (expects !== undefined && expects !== '*' && !expects.split(',').some((one) => one.trim() === etagOf(found)))
    return failure(412, 'PreconditionFailed');
  const body = bodyOf(asked.text);
  if (!body) return failure(400, 'MalformedJSON');
  const bay = bayOfPath(path);
  for (const [name, value] of Object.entries(body)) {
    if (name === 'LocationIndicatorActive' && name in found) {
      if (typeof value !== 'boolean')
        return failure(400, 'PropertyValueTypeError', [JSON.stringify(value), name], {}, name);
    } else
      return name in found
        ? failure(400, 'PropertyNotWritable', [name], {}, name)
        : failure(400, 'PropertyUnknown', [name], {}, name);
  }
  const truth = service.truth();
  if (bay !== undefined && baysOf(truth.unit).includes(bay) && 'LocationIndicatorActive' in body) {
    const after = done(truth, { do: 'light', bay, on: body['LocationIndicatorActive'] === true });
    if (!isRefusal(after)) service.change(after);
  }
  const all = everything(service);
  return read(service, { ...asked, method: 'GET', headers: {} }, all, all.get(path) as Body, allowed(path));
}
