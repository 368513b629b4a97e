import { formatBytes } from '../quantity/formatBytes';
import { formatPercent } from '../quantity/formatPercent';
import { chanceOfUnreadableSector } from '../risk/chanceOfUnreadableSector';
import type { Band, Member } from './band';
import { factsOf, type Scheme } from './scheme';

/** From this many members on, one drive of protection is thought too thin by most (common practice). */
const WIDE = 9;

/** What to know before choosing a legal layout. */
export function warningsOf(scheme: Scheme, members: readonly Member[], bands: readonly Band[]): string[] {
  return [...alone(scheme, members), ...tooWide(scheme, members, bands), ...shingledInParity(members, bands)];
}

function alone(scheme: Scheme, members: readonly Member[]): string[] {
  return factsOf(scheme).built === 'cut' && members.length === 1
    ? [
        'One drive alone: nothing guards it. A second that holds at least as much makes it a mirror; a copy elsewhere is needed until then, and after.',
      ]
    : [];
}

function tooWide(scheme: Scheme, members: readonly Member[], bands: readonly Band[]): string[] {
  const band = bands[0];
  if (scheme !== 'parity-1' || members.length < WIDE || band === undefined) return [];
  const read = (band.toBytes - band.fromBytes) * (members.length - 1);
  const chance = (perBit: number): string => formatPercent(chanceOfUnreadableSector(read, perBit));
  return [
    `Wide: ${String(members.length)} drives lean on one drive of protection. A rebuild reads ${formatBytes(read)} from the others; ` +
      `at the data-sheet bound of one unreadable sector in 10¹⁵ bits the chance of meeting one is ${chance(1e-15)} (in 10¹⁴: ${chance(1e-14)}). ` +
      'Double parity or groups stand that; this does not.',
  ];
}

/** Makers and administrators agree on few things as widely as on this one (common practice). */
function shingledInParity(members: readonly Member[], bands: readonly Band[]): string[] {
  const shingled = members.filter(({ media }) => media === 'shingled').map(({ bay }) => bay);
  if (shingled.length === 0 || !bands.some(({ kind }) => kind === 'parity' || kind === 'dedicated')) return [];
  return [
    `Shingled: ${shingled.length === 1 ? 'bay' : 'bays'} ${shingled.join(', ')}. Rebuilding onto such a drive stalls for hours and may be given up as failed; keep them out of parity pools.`,
  ];
}
