import type { Band } from '../layout/band';
import { mayBeginAlone } from '../layout/alone';
import { factsOf } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { refusal, type Refusal } from '../value/refusal';
import { bandOver, membersOfBands, usableOf, type BuiltPool } from './builtPool';

/**
 * Why bands cannot be those of a pool of this scheme, however it was built and grown: they are none that planning, growing
 * and adding make.
 *
 * @param profile the family it stands in: some let a mixed pool begin with one drive
 * @param bytesOf of a member; 0 for one that is not there
 */
export function whyNotBands(
  profile: Profile,
  pool: BuiltPool,
  usableBytes: number,
  bytesOf: (member: string) => number,
): Refusal | undefined {
  const { bands, scheme } = pool;
  const no = (sentence: string, code = 'bands-inconsistent'): Refusal => refusal(code, sentence, '/bands');
  if (usableOf(bands) !== usableBytes)
    return refusal(
      'bands-inconsistent',
      `The bands hold ${String(usableOf(bands))} bytes together, not ${String(usableBytes)}.`,
      '/usableBytes',
    );
  for (const band of bands) {
    const { members, fromBytes, toBytes, redundancy } = band;
    if (new Set(members).size < members.length) return no('A band has a member twice.');
    if (toBytes <= fromBytes) return no('A band reaches no higher than it starts.', 'band-too-high');
    const short = members.find((member) => bytesOf(member) < toBytes);
    if (short !== undefined) return no(`A band reaches higher than ${short}.`, 'band-too-high');
    if (redundancy >= members.length && members.length > 0) return no('A band has fewer members than it may lose.');
    if (band.usableBytes !== bandOver(band, members).usableBytes)
      return no('A band holds its height for each member that is not protection, and no other bytes.');
  }
  const shape = whyNotShape(pool);
  return shape === undefined ? undefined : no(shape);

  function whyNotShape(of: BuiltPool): string | undefined {
    const facts = factsOf(scheme);
    const count = membersOfBands(of.bands).length;
    const isAlone = count === 1 && mayBeginAlone(profile, scheme);
    const kinds: readonly Band['kind'][] = KINDS[facts.built](scheme);
    const stray = of.bands.find(({ kind }) => !kinds.includes(kind));
    if (stray) return `${facts.name} has no band of the kind “${stray.kind}”.`;
    const wrong = of.bands.find(
      ({ redundancy, members }) => redundancy !== (isAlone ? 0 : (facts.redundancy ?? members.length - 1)),
    );
    if (wrong)
      return `${facts.name} does not survive ${String(wrong.redundancy)} in a band of ${String(wrong.members.length)}.`;
    if (isAlone) return of.bands.length === 1 ? undefined : 'One drive alone is one band.';
    if (count < facts.fewest)
      return `${facts.name} has at least ${String(facts.fewest)} members; ${String(count)} are named.`;
    if (facts.built === 'one')
      return of.bands.length === 1 ? undefined : `${facts.name} is one band over all its members.`;
    if (facts.built === 'cut' || facts.built === 'dedicated')
      return whyNotStacked(of, facts.redundancy ?? 0, facts.built === 'dedicated');
    if (of.bands.reduce((sum, { members }) => sum + members.length, 0) !== count)
      return 'A drive is in two bands that stand side by side.';
    const width = { pairs: 2, own: 1, groups: of.groupWidth ?? of.bands[0]?.members.length }[facts.built];
    return of.bands.every(({ members }) => members.length === width)
      ? undefined
      : `Every band of ${facts.name} has ${String(width)} members.`;
  }
}

const KINDS: Readonly<
  Record<ReturnType<typeof factsOf>['built'], (scheme: BuiltPool['scheme']) => readonly Band['kind'][]>
> = {
  one: (scheme) => [scheme === 'stripe' ? 'stripe' : scheme === 'mirror' ? 'mirror' : 'parity'],
  pairs: () => ['mirror'],
  groups: () => ['parity'],
  own: (scheme) => [scheme === 'span' ? 'span' : 'single'],
  cut: () => ['single', 'mirror', 'parity'],
  dedicated: () => ['dedicated'],
};

/** Bands one above the other, each over members of the one below; the first of a dedicated one stand in all of them. */
function whyNotStacked({ bands }: BuiltPool, redundancy: number, isDedicated: boolean): string | undefined {
  for (const [i, band] of bands.entries()) {
    if (!isDedicated && (band.kind === 'mirror') !== (band.members.length === redundancy + 1))
      return 'A band of a mixed pool is a mirror over one more than it may lose, and parity over more.';
    const below = bands[i - 1];
    if (!below) continue;
    if (below.toBytes !== band.fromBytes) return 'Bands lie one above the other, without a gap.';
    if (!band.members.every((member) => below.members.includes(member)))
      return 'A band has a member that is not in the band below it.';
    if (isDedicated && below.members.slice(0, redundancy).join() !== band.members.slice(0, redundancy).join())
      return 'Parity stands on the same drives in every band.';
  }
  return undefined;
}

/** Why a built pool cannot have grown into these bands: built ones stay over the drives they are over, and never get lower. */
export function whyNotGrownFrom(pool: BuiltPool, bands: readonly Band[]): Refusal | undefined {
  const { built } = factsOf(pool.scheme);
  const no = (sentence: string): Refusal => refusal('bands-cut-anew', sentence, '/bands');
  if (built === 'dedicated') {
    const redundancy = factsOf(pool.scheme).redundancy ?? 0;
    const parity = (of: readonly Band[]): string => [...(of[0]?.members ?? []).slice(0, redundancy)].sort().join();
    return parity(pool.bands) === parity(bands)
      ? undefined
      : no('Roles stay with the drives that have them: parity does not move as a pool grows.');
  }
  for (const before of pool.bands) {
    const isSame = ({ members }: Band): boolean =>
      (built === 'one' || built === 'cut' || members.length === before.members.length) &&
      before.members.every((one) => members.includes(one));
    const after = bands.find(
      (band) => band.fromBytes === before.fromBytes && band.toBytes >= before.toBytes && isSame(band),
    );
    if (!after)
      return no(`Built bands are never cut or paired anew: there is none over ${before.members.join(', ')} any more.`);
  }
  return undefined;
}
