import { lookup } from 'node:dns/promises';
import { Agent as PlainAgent, request as plainRequest, type RequestOptions } from 'node:http';
import { Agent, request as secureRequest } from 'node:https';
import { connect, type TLSSocket } from 'node:tls';
import type { Trouble } from '../../store/watches';
import { isNearby, type Reach } from './nearby';

/** Bounds of what a unit may cost whoever asks it: common practice. */
export const BOUNDS = { answerMs: 8000, wholeMs: 25_000, bytes: 2_000_000, depth: 40, requests: 600 } as const;

/** A unit that can be asked: one connection or two, the certificate checked before a word is said. */
export interface UnitDoor {
  readonly ask: (method: 'GET' | 'PATCH' | 'POST' | 'DELETE', path: string, body?: object) => Promise<unknown>;
  /** The certificate it showed; `null` without encryption. */
  readonly fingerprint: () => string | null;
  readonly close: () => void;
}

/** A unit that does not answer as it should, said once and for all. */
export class UnitTrouble extends Error {
  constructor(readonly trouble: Trouble) {
    super(trouble.sentence);
  }
}

const trouble = (code: string, sentence: string, fingerprint?: string): UnitTrouble =>
  new UnitTrouble({ code, sentence, ...(fingerprint === undefined ? {} : { fingerprint }) });

interface At {
  readonly address: string;
  readonly userName: string;
  readonly password: string;
  /** The certificate it must show; `null` takes whichever it shows the first time. */
  readonly fingerprint: string | null;
  readonly reach: Reach;
}

/**
 * Opens the door of a unit. No redirects, no other host, bounds on time, size, depth and number of questions; the name is
 * resolved once, and only a number of one's own network is connected to.
 */
export async function openDoor(
  { address, userName, password, fingerprint, reach }: At,
  bounds: { readonly answerMs: number; readonly wholeMs: number } = BOUNDS,
): Promise<UnitDoor> {
  const url = new URL(address);
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const isSecure = url.protocol === 'https:';
  const port = Number(url.port || (isSecure ? 443 : 80));
  const ip = await lookup(host).then(
    (found) => found.address,
    () => {
      throw trouble('name-unknown', `Nobody on this network knows ${host}.`);
    },
  );
  if (!isNearby(ip, reach))
    throw trouble('not-nearby', `${host} leads to ${ip}, which is not in a network of your own: it was not asked.`);
  let shown: string | null = null;
  const secure = new Agent({ keepAlive: true, maxSockets: 2 });
  // The certificate is looked at before anything is sent: the password is for the unit it was given for.
  secure.createConnection = ((_options: object, ready: (error: Error | null, socket?: TLSSocket) => void) => {
    const socket = connect({
      host: ip,
      port,
      rejectUnauthorized: false,
      ...(/[a-z]/i.test(host) ? { servername: host } : {}),
    });
    socket.once('secureConnect', () => {
      const { fingerprint256 } = socket.getPeerCertificate();
      if (fingerprint !== null && fingerprint !== fingerprint256) {
        socket.destroy();
        ready(
          trouble(
            'other-certificate',
            'It shows another certificate than before: it was not asked. A unit that was set up anew does so; so does a stranger in its place.',
            fingerprint256,
          ),
        );
        return;
      }
      shown = fingerprint256;
      ready(null, socket);
    });
    socket.once('error', (error) => ready(error));
  }) as never;
  const agent = isSecure ? secure : new PlainAgent({ keepAlive: true, maxSockets: 2 });
  const send = isSecure ? secureRequest : plainRequest;
  const began = Date.now();
  let asked = 0;

  const ask: UnitDoor['ask'] = (method, path, body) => {
    const left = bounds.wholeMs - (Date.now() - began);
    if (++asked > BOUNDS.requests || left <= 0)
      return Promise.reject(trouble('endless', 'It has more to say than a unit has: the question was broken off.'));
    if (!path.startsWith('/') || path.startsWith('//') || /[\s\\]/.test(path))
      return Promise.reject(trouble('leads-elsewhere', 'It leads to another address: that was not followed.'));
    const text = body === undefined ? '' : JSON.stringify(body);
    const options: RequestOptions = {
      host: ip,
      port,
      path,
      method,
      agent,
      signal: AbortSignal.timeout(Math.min(bounds.answerMs, left)),
      headers: {
        host: url.host,
        accept: 'application/json',
        'odata-version': '4.0',
        authorization: `Basic ${Buffer.from(`${userName}:${password}`).toString('base64')}`,
        ...(text === ''
          ? {}
          : { 'content-type': 'application/json', 'content-length': String(Buffer.byteLength(text)) }),
      },
    };
    return new Promise((resolve, reject) => {
      const request = send(options, (response) => {
        const pieces: Buffer[] = [];
        let size = 0;
        response.on('data', (piece: Buffer) => {
          size += piece.length;
          pieces.push(piece);
          if (size > BOUNDS.bytes) request.destroy(trouble('too-long', 'Its answer is longer than a unit’s can be.'));
        });
        response.on('end', () => {
          const { statusCode: status = 0 } = response;
          if (status === 204) return resolve(undefined);
          if (status === 401 || status === 403)
            return reject(trouble('not-let-in', 'It does not let in this user with this password.'));
          if (status >= 300 && status < 400)
            return reject(trouble('leads-elsewhere', 'It leads to another address: that was not followed.'));
          // The panel of a simulated unit, and no unit, says no in a sentence of its own.
          if (status === 422) return reject(trouble('refused-it', sentenceIn(Buffer.concat(pieces).toString('utf8'))));
          if (status === 404) return reject(trouble('no-service', `It has nothing at ${path.slice(0, 120)}.`));
          if (status !== 200 && status !== 201)
            return reject(trouble('answers-wrong', `It answered with the number ${String(status)}.`));
          const whole = Buffer.concat(pieces).toString('utf8');
          if (depthOf(whole) > BOUNDS.depth)
            return reject(trouble('makes-no-sense', 'Its answer is nested deeper than a unit’s can be.'));
          try {
            resolve(JSON.parse(whole));
          } catch {
            reject(trouble('makes-no-sense', 'Its answer is no JSON.'));
          }
        });
        response.on('error', reject);
        response.on('aborted', () => reject(trouble('broke-off', 'Its answer broke off in the middle.')));
      });
      request.on('error', (error) => reject(inWords(error)));
      request.end(text);
    });
  };
  return { ask, fingerprint: () => shown, close: () => agent.destroy() };
}

function sentenceIn(text: string): string {
  try {
    const { sentence } = JSON.parse(text) as { sentence?: unknown };
    if (typeof sentence === 'string') return sentence.slice(0, 300);
  } catch {
    // No sentence, then.
  }
  return 'It refused that.';
}

function inWords(error: Error): UnitTrouble {
  if (error instanceof UnitTrouble) return error;
  const { code = '' } = error as NodeJS.ErrnoException;
  if (error.name === 'AbortError' || error.name === 'TimeoutError' || code === 'ABORT_ERR')
    return trouble('no-answer', 'It takes the question and does not answer.');
  if (code === 'ECONNREFUSED') return trouble('refused', 'Nothing answers at its address: is it on?');
  if (code === 'EHOSTUNREACH' || code === 'ENETUNREACH' || code === 'ETIMEDOUT')
    return trouble('unreachable', 'Its address cannot be reached: is it on, and the network between?');
  return trouble('broke-off', 'The connection to it broke off.');
}

/** How deep a text is nested, without reading it: what follows would walk as deep. */
function depthOf(text: string): number {
  let [depth, most, isText] = [0, 0, false];
  for (let i = 0; i < text.length; i++) {
    const letter = text.charCodeAt(i);
    if (isText) {
      if (letter === 92) i++;
      else if (letter === 34) isText = false;
    } else if (letter === 34) isText = true;
    else if (letter === 123 || letter === 91) most = Math.max(most, ++depth);
    else if (letter === 125 || letter === 93) depth--;
  }
  return most;
}
