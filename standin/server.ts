import { createHash, timingSafeEqual } from 'node:crypto';
import { createServer, request as plainRequest, type IncomingMessage, type ServerResponse } from 'node:http';
import { createServer as createSecureServer, request as secureRequest } from 'node:https';
import type { AddressInfo } from 'node:net';
import { Ajv2020 } from 'ajv/dist/2020';
import { isRefusal } from '../core/value/refusal';
import { panelSchema, type PanelDoing } from '../schemas/panel';
import { playedClock } from './clock';
import { playUnit, type Played } from './played';
import { eventBody, type Told } from './redfish/events';
import { USER, type Subscription } from './redfish/service';
import { done, type Truth } from './truth';

/** How often the units live on by themselves, and tell who listens. */
const TICK_MS = 200;
const MOST_BODY = 100_000;
const PAGE = 50;
/** A listener that does not take an event is tried again so often, so long apart. */
const [RETRIES, RETRY_MS] = [3, 2000] as const;

export interface Pair {
  readonly cert: Buffer;
  readonly key: Buffer;
}

export interface Playing {
  readonly port: number;
  readonly units: readonly Played[];
  readonly stop: () => Promise<void>;
}

export interface Play {
  readonly units: readonly Truth[];
  readonly port: number;
  readonly password: string;
  /** Left out: without encryption. */
  readonly tls?: Pair;
  /** Another certificate, for when it is to change. */
  readonly other?: () => Pair;
  /** Called when there is something to keep. */
  readonly keep?: (units: readonly Truth[]) => void;
}

/** Plays units over HTTP on loopback until it is stopped. */
export async function playUnits({ units: first, port, password, tls, other, keep }: Play): Promise<Playing> {
  // Units that were kept may have lived faster than the machine: time never goes back.
  const clock = playedClock(Date.now, Math.max(Date.now(), ...first.map(({ livedTo }) => livedTo)));
  const units = first.map((truth, i) =>
    playUnit(truth, {
      n: i + 1,
      base: `/unit-${String(i + 1)}`,
      password,
      page: PAGE,
      now: clock.now,
      real: Date.now,
    }),
  );
  // One unit alone is found where the standard says, too.
  const alone = first.length === 1 ? units[0] : undefined;
  const isPanelOf = panelCheck();

  const onRequest = (request: IncomingMessage, response: ServerResponse): void => {
    void answerRequest(request, response).catch(() => response.destroy());
  };
  const answerRequest = async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const url = new URL(request.url ?? '/', 'http://unit');
    const text = await textOf(request);
    if (text === null) return void response.writeHead(413).end();
    const [, panel] = /^\/panel(?:\/unit-(\d+))?$/.exec(url.pathname) ?? [];
    if (url.pathname.startsWith('/panel')) return void atPanel(request, response, text, panel);
    const [, number, rest] = /^\/unit-(\d+)(\/.*)$/.exec(url.pathname) ?? [];
    const unit = number === undefined ? alone : units[Number(number) - 1];
    if (!unit) return void response.writeHead(404).end();
    if (unit.isAway()) return void request.socket.destroy();
    const given = unit.answer(
      {
        method: request.method ?? 'GET',
        path: rest ?? url.pathname,
        query: url.searchParams,
        headers: Object.fromEntries(
          Object.entries(request.headers).map(([name, value]) => [name, Array.isArray(value) ? value.join() : value]),
        ),
        text,
      },
      request.socket.remoteAddress ?? '',
    );
    // Nothing comes: whoever asked gives up, or waits.
    if (!given) return;
    if (given.afterMs > 0) await new Promise((resolve) => setTimeout(resolve, given.afterMs));
    const bytes = Buffer.from(given.answer.text);
    response.writeHead(given.answer.status, { ...given.answer.headers, 'content-length': String(bytes.length) });
    if (given.half) {
      response.write(bytes.subarray(0, bytes.length >> 1), () => request.socket.destroy());
      return;
    }
    response.end(bytes);
  };

  const atPanel = (request: IncomingMessage, response: ServerResponse, text: string, number?: string): void => {
    const say = (status: number, body: object): void => {
      response.writeHead(status, { 'content-type': 'application/json; charset=utf-8' }).end(JSON.stringify(body));
    };
    if (!isKeeper(request.headers.authorization, password)) return say(401, { sentence: 'Who is there?' });
    if (request.method === 'GET' && number === undefined)
      return say(200, { pace: clock.pace(), now: new Date(clock.now()).toISOString(), units: units.map(shown) });
    const unit = units[Number(number) - 1];
    if (!unit || request.method !== 'POST') return say(404, { sentence: 'There is no such unit here.' });
    let body: unknown;
    try {
      body = JSON.parse(text);
    } catch {
      return say(400, { sentence: 'This is no JSON.' });
    }
    if (!isPanelOf(body)) return say(422, { sentence: 'The panel has no such thing to do.' });
    if (body.do === 'pace') {
      for (const each of units) each.live();
      clock.setPace(body.pace);
    } else if (body.do === 'fault') {
      unit.setFault(body.fault);
      if (body.fault === 'certificate' && other && 'setSecureContext' in server) server.setSecureContext(other());
    } else {
      const after = done(unit.truth(), body);
      if (isRefusal(after)) return say(422, { sentence: after.sentence });
      unit.change(after);
    }
    keep?.(units.map((each) => each.truth()));
    tick();
    return say(200, shown(unit));
  };

  const server = tls ? createSecureServer({ ...tls, minVersion: 'TLSv1.2' }, onRequest) : createServer(onRequest);
  let events = 0;
  let ticks = 0;
  const tick = (): void => {
    for (const unit of units) {
      const told = unit.live();
      if (told.length === 0) continue;
      keep?.(units.map((each) => each.truth()));
      for (const to of unit.desk().subscriptions.values())
        void tell(to, told, String(++events), new Date(clock.now()).toISOString(), `/unit-${String(unit.n)}`);
    }
    if (++ticks % 50 === 0) keep?.(units.map((each) => each.truth()));
  };
  const timer = setInterval(tick, TICK_MS);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return {
    port: (server.address() as AddressInfo).port,
    units,
    stop: async () => {
      clearInterval(timer);
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}

/** What the panel shows of a unit. */
function shown(unit: Played) {
  const { unit: state, used, lit } = unit.truth();
  return {
    n: unit.n,
    name: state.name,
    fault: unit.fault(),
    lit,
    drives: Object.values(state.drives)
      .filter(({ bay }) => bay !== null)
      .map(({ serial, bay, bytes, condition }) => ({ serial, bay, bytes, condition })),
    enclosures: state.enclosures.map(({ name, bays }) => ({ name, bays, away: state.away.includes(name) })),
    pools: Object.values(state.pools).map(({ id, name, missing, shownBytes }) => ({
      id,
      name,
      missing,
      usedBytes: used[id] ?? 0,
      shownBytes,
    })),
    jobs: Object.values(state.jobs).map(({ id, task, percent, onto }) => ({ id, task, percent, onto })),
  };
}

export type ShownUnit = ReturnType<typeof shown>;

function panelCheck(): (body: unknown) => body is PanelDoing {
  const check = new Ajv2020({ discriminator: true, strict: false }).compile(panelSchema);
  return (body): body is PanelDoing => check(body);
}

function isKeeper(header: string | undefined, password: string): boolean {
  const [, basic = ''] = /^Basic +(\S+)$/i.exec(header ?? '') ?? [];
  const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(Buffer.from(basic, 'base64').toString()), digest(`${USER}:${password}`));
}

async function textOf(request: IncomingMessage): Promise<string | null> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of request as AsyncIterable<Buffer>) {
    size += piece.length;
    if (size > MOST_BODY) return null;
    pieces.push(piece);
  }
  return Buffer.concat(pieces).toString();
}

async function tell(to: Subscription, told: readonly Told[], id: string, at: string, base: string): Promise<void> {
  const text = JSON.stringify(eventBody(told, id, to.context, at, base));
  for (let i = 0; i <= RETRIES; i++) {
    if (await post(to, text)) return;
    await new Promise((resolve) => setTimeout(resolve, RETRY_MS).unref());
  }
}

function post({ destination, headers }: Subscription, text: string): Promise<boolean> {
  return new Promise((resolve) => {
    const send = destination.startsWith('https:') ? secureRequest : plainRequest;
    const request = send(
      destination,
      {
        method: 'POST',
        timeout: 5000,
        // A stand-in: whoever listens on this machine may have a certificate of its own.
        ...(destination.startsWith('https:') ? { rejectUnauthorized: false } : {}),
        headers: { 'content-type': 'application/json', 'content-length': String(Buffer.byteLength(text)), ...headers },
      },
      (response) => {
        response.resume();
        resolve((response.statusCode ?? 500) < 300);
      },
    );
    request.on('timeout', () => request.destroy());
    request.on('error', () => resolve(false));
    request.end(text);
  });
}
