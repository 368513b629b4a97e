import { BlockList, isIP } from 'node:net';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';

/** A network by its number and how many bits of it count. */
export interface Network {
  readonly net: string;
  readonly bits: number;
  readonly family: 'ipv4' | 'ipv6';
}

/** Wider than this is not one's own network, whoever says so. */
const LEAST_BITS = { ipv4: 8, ipv6: 16 } as const;
/** What is never a unit: this machine, the link itself with what hosts of machines answer there, groups, nobody. */
const NEVER: readonly Network[] = [
  { net: '0.0.0.0', bits: 8, family: 'ipv4' },
  { net: '127.0.0.0', bits: 8, family: 'ipv4' },
  { net: '169.254.0.0', bits: 16, family: 'ipv4' },
  { net: '224.0.0.0', bits: 3, family: 'ipv4' },
  // With what is mapped from the other family and this machine itself.
  { net: '::', bits: 16, family: 'ipv6' },
  { net: 'fe80::', bits: 10, family: 'ipv6' },
  { net: 'ff00::', bits: 8, family: 'ipv6' },
];

/** A network as it is written, "203.0.113.0/24"; refused (`no-network`) where it is none, or never one of one's own. */
export function readNetwork(text: string): Network | Refusal {
  const [net = '', bitsText = '', ...rest] = text.trim().toLowerCase().split('/');
  const version = isIP(net);
  const bits = Number(bitsText);
  const most = version === 4 ? 32 : 128;
  if (version === 0 || rest.length > 0 || !/^\d{1,3}$/.test(bitsText) || bits > most || net.includes('%'))
    return refusal('no-network', `“${text.slice(0, 60)}” is no network: write 203.0.113.0/24 or 2001:db8::/48.`);
  const family = version === 4 ? 'ipv4' : 'ipv6';
  if (bits < LEAST_BITS[family])
    return refusal(
      'no-network',
      `${text.trim()} is too wide to be a network of your own: at least /${String(LEAST_BITS[family])}.`,
    );
  const network = { net, bits, family } as const;
  const never = NEVER.find((one) => one.family === family && overlap(one, network));
  if (never)
    return refusal('no-network', `No unit stands in ${text.trim()}: it is this machine, its link, or a group of many.`);
  return network;
}

/** Of two networks one holds the other, or they have nothing in common. */
function overlap(one: Network, other: Network): boolean {
  const [wide, narrow] = one.bits <= other.bits ? [one, other] : [other, one];
  return listOf([wide]).check(narrow.net, narrow.family);
}

/** Networks to hold addresses against. */
export function listOf(networks: readonly Network[]): BlockList {
  const list = new BlockList();
  for (const { net, bits, family } of networks) list.addSubnet(net, bits, family);
  return list;
}

/** Those that can be read; the others are as if they were not there. */
export function networksIn(texts: readonly string[]): Network[] {
  return texts.flatMap((text) => {
    const read = readNetwork(text);
    return isRefusal(read) ? [] : [read];
  });
}
