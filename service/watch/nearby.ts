import { BlockList, isIP } from 'node:net';
import { refusal, type Refusal } from '../../core/value/refusal';

/** Networks that are one's own (RFC 1918, RFC 4193). */
const OWN = new BlockList();
for (const [net, bits] of [
  ['10.0.0.0', 8],
  ['172.16.0.0', 12],
  ['192.168.0.0', 16],
] as const)
  OWN.addSubnet(net, bits, 'ipv4');
OWN.addSubnet('fc00::', 7, 'ipv6');

const LOOPBACK = new BlockList();
LOOPBACK.addSubnet('127.0.0.0', 8, 'ipv4');
LOOPBACK.addAddress('::1', 'ipv6');

/** Further networks an owner of the machine has allowed: "203.0.113.0/24, 2001:db8::/48" in PATIENT_SHELF_WATCH_NETWORKS. */
function allowedBesides(): BlockList {
  const list = new BlockList();
  for (const one of (process.env['PATIENT_SHELF_WATCH_NETWORKS'] ?? '').split(',')) {
    const [net = '', bits = ''] = one.trim().split('/');
    const family = isIP(net);
    if (family !== 0 && /^\d{1,3}$/.test(bits)) list.addSubnet(net, Number(bits), family === 4 ? 'ipv4' : 'ipv6');
  }
  return list;
}

/**
 * True for a number of one's own network: nothing else is ever connected to, whatever a name resolves to. This machine
 * itself only where simulated units stand.
 */
export function isNearby(address: string, isDemo: boolean): boolean {
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1];
  const plain = mapped ?? address;
  const family = isIP(plain) === 6 ? 'ipv6' : 'ipv4';
  if (LOOPBACK.check(plain, family)) return isDemo;
  return OWN.check(plain, family) || allowedBesides().check(plain, family);
}

/** Why a unit cannot be asked at an address; `undefined` where it may be tried. */
export function whyNotAddress(text: string, isDemo: boolean): Refusal | undefined {
  let url: URL;
  try {
    url = new URL(text);
  } catch {
    return refusal('no-address', 'This is no address: https:// and its name or number.', '/address');
  }
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const isNumber = isIP(host) !== 0;
  if (url.protocol !== 'https:' && !(isDemo && isNumber && LOOPBACK.check(host)))
    return refusal(
      'not-encrypted',
      'A unit is asked by https only: its password would travel open otherwise.',
      '/address',
    );
  if (isNumber && !isNearby(host, isDemo))
    return refusal(
      'not-nearby',
      `${host} is not in a network of your own. Units are asked in private networks only; others are allowed by whoever runs this machine.`,
      '/address',
    );
  return undefined;
}
