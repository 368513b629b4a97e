import { createPrivateKey, X509Certificate } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { isIP, isIPv4 } from 'node:net';
import { resolve } from 'node:path';
import { Sentence } from './sentence';

/** Where the application listens, and what it is called from outside. */
export interface Reach {
  readonly listen: string;
  readonly port: number;
  /** Without a slash at its end; what links, cookies and origins go by. */
  readonly url: string;
  readonly tls: { readonly certificate: string; readonly key: string } | null;
  /** Something that ends TLS stands in front, and says who is at the other end. */
  readonly behindProxy: boolean;
  /** Pages and answers go out compressed. */
  readonly compress: boolean;
}

export interface ReachAsked {
  readonly port: number;
  readonly listen?: string | undefined;
  readonly url?: string | undefined;
  readonly certificate?: string | undefined;
  readonly key?: string | undefined;
  readonly 'behind-proxy'?: boolean | undefined;
  readonly 'no-compression'?: boolean | undefined;
}

export const LOOPBACK = '127.0.0.1';
export const isLoopback = (address: string): boolean =>
  address === '::1' || (isIPv4(address) && address.startsWith('127.'));
const isEvery = (address: string): boolean => address === '0.0.0.0' || address === '::';

/** What was asked for, held together; passwords and records never cross a network in the clear. */
export function reachAsked(
  {
    port,
    listen = LOOPBACK,
    url,
    certificate,
    key,
    'behind-proxy': behindProxy = false,
    'no-compression': isPlain = false,
  }: ReachAsked,
  now: Date,
): Reach {
  if (isIP(listen) === 0)
    throw new Sentence(
      `"${listen}" is not an address to listen on: write one of this machine's, such as 192.168.1.20, or 0.0.0.0 for all.`,
    );
  if ((certificate === undefined) !== (key === undefined))
    throw new Sentence('A certificate goes with its key: give both --certificate FILE and --key FILE.');
  if (behindProxy && certificate !== undefined)
    throw new Sentence(
      'Either the proxy in front ends TLS (--behind-proxy), or this does (--certificate, --key): not both.',
    );
  if (behindProxy && url === undefined)
    throw new Sentence('Behind a proxy the address people use is not known here: give it as --url https://….');
  const tls =
    certificate === undefined || key === undefined ? null : { certificate: resolve(certificate), key: resolve(key) };
  if (tls) checkPair(tls, now);
  if (!isLoopback(listen) && !tls && !behindProxy)
    throw new Sentence(
      `Plain http is for this machine alone: to listen on ${listen}, give --certificate FILE and --key FILE, or put a proxy in front and say --behind-proxy --url https://….`,
    );
  if (isEvery(listen) && url === undefined)
    throw new Sentence('Listening on every address, it needs one to be called by: give --url https://….');
  return {
    listen,
    port,
    url: urlOf(url, tls !== null || behindProxy, listen, port),
    tls,
    behindProxy,
    compress: !isPlain,
  };
}

function urlOf(url: string | undefined, isSecure: boolean, listen: string, port: number): string {
  if (url === undefined)
    return `${isSecure ? 'https' : 'http'}://${listen.includes(':') ? `[${listen}]` : listen}:${String(port)}`;
  if (!URL.canParse(url)) throw new Sentence(`"${url}" is not an address: write --url https://shelf.example.`);
  const { protocol, origin, pathname, search, hash, username } = new URL(url);
  if (pathname !== '/' || search !== '' || hash !== '' || username !== '')
    throw new Sentence(`--url is a name alone, such as https://shelf.example: "${url}" has more in it.`);
  if (protocol !== (isSecure ? 'https:' : 'http:'))
    throw new Sentence(
      isSecure
        ? `--url begins with https:// here: "${url}" does not.`
        : '--url https://… needs --certificate and --key, or --behind-proxy.',
    );
  return origin;
}

function checkPair({ certificate, key }: { readonly certificate: string; readonly key: string }, now: Date): void {
  const read = (file: string): string => {
    try {
      return readFileSync(file, 'utf8');
    } catch (error) {
      throw new Sentence(`${file} cannot be read: ${(error as Error).message}.`);
    }
  };
  const [first, secret] = [read(certificate), read(key)];
  let held: X509Certificate;
  try {
    held = new X509Certificate(first);
  } catch {
    throw new Sentence(`${certificate} is no certificate (PEM).`);
  }
  let fits: boolean;
  try {
    fits = held.checkPrivateKey(createPrivateKey(secret));
  } catch {
    throw new Sentence(`${key} is no private key (PEM, without a password).`);
  }
  if (!fits) throw new Sentence(`${key} is not the key of ${certificate}.`);
  if (new Date(held.validTo) < now)
    throw new Sentence(
      `${certificate} ran out on ${new Date(held.validTo).toISOString().slice(0, 10)}: renew it first.`,
    );
}
