import type { Band } from '../layout/band';
import { factsOf, type Scheme } from '../layout/scheme';
import { formatBytes } from '../quantity/formatBytes';
import type { Profile } from '../platform/profile';

/** What one more drive gives a pool as it was built. */
export interface BuiltAddition {
  readonly kind: 'built-addition';
  readonly gainedBytes: number;
  readonly sentence: string;
}

/**
 * What a new drive really adds to a pool as it was built, under this profile: it joins the bands it reaches the top of,
 * which are not cut anew, and makes one more band on top where enough members have room left there.
 *
 * @param sizes bytes of every member, by the names the bands use
 */
export function addToBuilt(profile: Profile, scheme: Scheme, bands: readonly Band[], sizes: ReadonlyMap<string, number>, newBytes: number): BuiltAddition {
  const answer = (gainedBytes: number, sentence: string): BuiltAddition => Object.freeze({ kind: 'built-addition', gainedBytes, sentence });
  const { addDrives } = profile.growth;
  if (addDrives === 'none') return answer(0, 'This family adds no drives to a pool.');
  if (addDrives === 'group' || factsOf(scheme).isGrouped) return answer(0, 'One drive adds nothing here: this pool grows by whole groups.');
  const own = Math.max(0, newBytes - profile.space.systemAreaBytes);
  const top = Math.max(...bands.map(({ toBytes }) => toBytes));
  switch (scheme) {
    case 'separate':
    case 'span':
      return answer(own, 'All of it: every drive counts for itself.');
    case 'mirror':
      return answer(0, 'No space: it becomes one more copy.');
    case 'striped-mirrors':
      return answer(0, 'One drive adds nothing here: mirrors grow by pairs.');
    case 'stripe':
    case 'parity-1':
    case 'parity-2': {
      const [band] = bands;
      if (!band || newBytes < band.toBytes) return answer(0, `Too small: every member must hold ${formatBytes(top)}.`);
      return answer(band.toBytes - band.fromBytes, `It counts as the smallest member, ${formatBytes(band.toBytes)}; the rest of it stays unused.`);
    }
    case 'dedicated-1':
    case 'dedicated-2': {
      const redundancy = factsOf(scheme).redundancy as number;
      const parity = Math.min(...(bands[0]?.members.slice(0, redundancy).map((member) => sizes.get(member) ?? 0) ?? [0]));
      return newBytes > parity
        ? answer(0, `Larger than a parity drive (${formatBytes(parity)}): it has to become parity first.`)
        : answer(own, 'All of it, guarded by the parity drives there are.');
    }
    case 'mixed-1':
    case 'mixed-2':
      return addToMixed(bands, sizes, newBytes, factsOf(scheme).redundancy as number, answer);
    default:
      return answer(0, 'One drive adds nothing here.');
  }
}

function addToMixed(
  bands: readonly Band[],
  sizes: ReadonlyMap<string, number>,
  newBytes: number,
  redundancy: number,
  answer: (gained: number, sentence: string) => BuiltAddition,
): BuiltAddition {
  const top = Math.max(...bands.map(({ toBytes }) => toBytes));
  const joined = bands.filter(({ toBytes }) => newBytes >= toBytes);
  let gained = joined.reduce((sum, { fromBytes, toBytes }) => sum + toBytes - fromBytes, 0);
  // Above the highest band lies what its members could not match alone.
  const above = [...sizes.values(), newBytes].filter((bytes) => bytes > top).sort((a, b) => b - a);
  const reach = above[redundancy];
  if (newBytes > top && reach !== undefined) gained += (above.length - redundancy) * (reach - top);
  const left = newBytes - Math.max(0, ...joined.map(({ toBytes }) => toBytes), newBytes > top && reach !== undefined ? reach : 0);
  return answer(
    gained,
    `It joins ${String(joined.length)} of ${String(bands.length)} bands${newBytes > top && reach !== undefined ? ' and makes one more on top' : ''}${left > 0 && joined.length < bands.length ? `; ${formatBytes(left)} of it reach into a band without filling it` : ''}.`,
  );
}
