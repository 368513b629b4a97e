import { isIP } from 'node:net';
import { refusal, type Refusal } from '../../core/value/refusal';
import { allowedNetworks } from '../../store/networks';
import { organisation } from '../../store/organisation';
import type { App } from '../app';
import { listOf, networksIn } from './network';

/** Networks that are one's own (RFC 1918, RFC 4193). */
const OWN = listOf([
  { net: '10.0.0.0', bits: 8, family: 'ipv4' },
  { net: '172.16.0.0', bits: 12, family: 'ipv4' },
  { net: '192.168.0.0', bits: 16, family: 'ipv4' },
  { net: 'fc00::', bits: 7, family: 'ipv6' },
]);
const LOOPBACK = listOf([
  { net: '127.0.0.0', bits: 8, family: 'ipv4' },
  { net: '::1', bits: 128, family: 'ipv6' },
]);

/** Where units may be asked. */
export interface Reach {
  /** This machine itself, where simulated units stand. */
  readonly isDemo: boolean;
  /** Networks besides the private ones. */
  readonly besides: readonly string[];
}

/** Networks besides, as whoever runs the machine has set them: "203.0.113.0/24, 2001:db8::/48" in PATIENT_SHELF_WATCH_NETWORKS. */
export function setByMachine(): string[] {
  return (process.env['PATIENT_SHELF_WATCH_NETWORKS'] ?? '')
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '');
}

/** What an owner has allowed, and whoever runs the machine. */
export async function reachOf(app: Pick<App, 'db'>): Promise<Reach> {
  const [{ isDemo }, allowed] = await Promise.all([organisation(app.db), allowedNetworks(app.db)]);
  return { isDemo, besides: [...setByMachine(), ...allowed.map(({ network }) => network)] };
}

/** True for a number of a network in which units may be asked: nothing else is ever connected to, whatever a name resolves to. */
export function isNearby(address: string, { isDemo, besides }: Reach): boolean {
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1];
  const plain = mapped ?? address;
  const family = isIP(plain) === 6 ? 'ipv6' : 'ipv4';
  if (LOOPBACK.check(plain, family)) return isDemo;
  return OWN.check(plain, family) || listOf(networksIn(besides)).check(plain, family);
}

/** Why a unit cannot be asked at an address; `undefined` where it may be tried. */
export function whyNotAddress(text: string, reach: Reach): Refusal | undefined {
  let url: URL;
  try {
    url = new URL(text);
  } catch {
    return refusal('no-address', 'This is no address: https:// and its name or number.', '/address');
  }
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const isNumber = isIP(host) !== 0;
  if (url.protocol !== 'https:' && !(reach.isDemo && isNumber && LOOPBACK.check(host)))
    return refusal(
      'not-encrypted',
      'A unit is asked by https only: its password would travel open otherwise.',
      '/address',
    );
  if (isNumber && !isNearby(host, reach))
    return refusal(
      'not-nearby',
      `${host} is not in a network of your own. Units are asked in private networks only, and in those an owner has allowed under Settings.`,
      '/address',
    );
  return undefined;
}
