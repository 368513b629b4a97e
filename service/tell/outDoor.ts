import { lookup } from 'node:dns/promises';
import { request as plainRequest } from 'node:http';
import { request as secureRequest } from 'node:https';
import { BlockList, isIP } from 'node:net';
import { refusal, type Refusal } from '../../core/value/refusal';

/** Bounds of what somebody outside may cost whoever calls: common practice. */
const ANSWER_MS = 10_000;
const MOST_BYTES = 100_000;

/** What no message is for: this machine, and what only machines of one rack or cloud reach (RFC 3927, RFC 4291). */
const [HERE, NEVER] = [new BlockList(), new BlockList()];
HERE.addSubnet('127.0.0.0', 8, 'ipv4');
HERE.addAddress('::1', 'ipv6');
NEVER.addSubnet('0.0.0.0', 8, 'ipv4');
NEVER.addSubnet('169.254.0.0', 16, 'ipv4');
NEVER.addSubnet('224.0.0.0', 3, 'ipv4');
NEVER.addSubnet('fe80::', 10, 'ipv6');
NEVER.addSubnet('ff00::', 8, 'ipv6');
NEVER.addAddress('::', 'ipv6');

/** True for a number that may be called; this machine itself only in a demo. */
export function mayBeCalled(address: string, isDemo: boolean): boolean {
  const plain = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1] ?? address;
  const family = isIP(plain) === 6 ? 'ipv6' : 'ipv4';
  if (HERE.check(plain, family)) return isDemo;
  return isIP(plain) !== 0 && !NEVER.check(plain, family);
}

/** Why an address cannot be called; `undefined` where it may be tried. */
export function whyNotCalled(text: string, isDemo: boolean, pointer: string): Refusal | undefined {
  let url: URL;
  try {
    url = new URL(text);
  } catch {
    return refusal('no-address', 'This is no address: https:// and where it leads.', pointer);
  }
  const host = hostOf(url);
  const isNumber = isIP(host) !== 0;
  if (url.username !== '' || url.password !== '')
    return refusal('no-address', 'A name and a password do not belong into an address.', pointer);
  if (url.protocol !== 'https:' && !(isDemo && isNumber && HERE.check(host, isIP(host) === 6 ? 'ipv6' : 'ipv4')))
    return refusal('not-encrypted', 'An address is called by https only.', pointer);
  if (isNumber && !mayBeCalled(host, isDemo))
    return refusal('not-to-be-called', `${host} leads to this machine, or nowhere: it is not called.`, pointer);
  return undefined;
}

/**
 * Calls an address once: the name is resolved once, no redirects, bounds on time and size. What is answered is not read.
 *
 * @param body posted as JSON where given
 * @returns why it did not go through, as a sentence; `null` when it did
 */
export async function call(
  address: string,
  isDemo: boolean,
  post?: { readonly body: string; readonly headers: Readonly<Record<string, string>> },
): Promise<string | null> {
  const url = new URL(address);
  const host = hostOf(url);
  const ip = await lookup(host).then(
    (found) => found.address,
    () => null,
  );
  if (ip === null) return `Nobody knows ${host}.`;
  if (!mayBeCalled(ip, isDemo)) return `${host} leads to ${ip}, which is not called.`;
  const send = url.protocol === 'https:' ? secureRequest : plainRequest;
  return new Promise((resolve) => {
    const request = send(
      {
        host: ip,
        port: url.port || (url.protocol === 'https:' ? 443 : 80),
        path: `${url.pathname}${url.search}`,
        method: post ? 'POST' : 'GET',
        ...(isIP(host) === 0 ? { servername: host } : {}),
        signal: AbortSignal.timeout(ANSWER_MS),
        headers: {
          host: url.host,
          ...(post
            ? {
                ...post.headers,
                'content-type': 'application/json',
                'content-length': String(Buffer.byteLength(post.body)),
              }
            : {}),
        },
      },
      (response) => {
        let size = 0;
        response.on('data', (piece: Buffer) => {
          size += piece.length;
          if (size > MOST_BYTES) request.destroy();
        });
        const { statusCode: status = 0 } = response;
        response.on('error', () => undefined);
        resolve(status >= 200 && status < 300 ? null : `${host} answered with the number ${String(status)}.`);
        response.resume();
      },
    );
    request.on('error', (error) =>
      resolve(
        error.name === 'AbortError' || error.name === 'TimeoutError'
          ? `${host} did not answer.`
          : `${host} could not be reached: ${error.message}.`,
      ),
    );
    request.end(post?.body);
  });
}

function hostOf(url: URL): string {
  return url.hostname.replace(/^\[|\]$/g, '');
}
