import { figuresOf } from '../drive/media';
import { formatBytes } from '../quantity/formatBytes';
import { limitsOf, type Profile } from '../platform/profile';
import type { Member } from './band';
import { mayBeginAlone } from './alone';
import { factsOf, type Scheme } from './scheme';
import { groupWidthsThatFit, whyWidthDoesNotFit } from './groupWidths';

/**
 * Why these members cannot make this layout, each reason with the nearest legal step; empty when they can.
 *
 * @param width the group width asked for; `undefined` when none was asked for or none fits
 */
export function whyIllegal(
  scheme: Scheme,
  members: readonly Member[],
  spares: number,
  profile: Profile,
  width: number | undefined,
): string[] {
  const limits = limitsOf(profile, scheme);
  if (!limits) return [`${profile.name} does not offer this layout.`];

  const facts = factsOf(scheme);
  const reasons: string[] = [];
  const count = members.length;
  const isAlone = members.length === 1 && mayBeginAlone(profile, scheme);
  const fewest = isAlone ? 1 : Math.max(facts.fewest, limits.fewest ?? 0);
  if (spares > 0 && (facts.redundancy === 0 || isAlone)) {
    reasons.push('A spare has nothing to rebuild from here. Leave the spare out, or take a layout with protection.');
  }
  if (count < fewest) {
    const missing = fewest - count;
    const instead = spares > 0 ? `, or keep ${spares === 1 ? 'no spare' : 'fewer spares'}` : '';
    reasons.push(`Needs at least ${String(fewest)} drives; ${areIn(count)}. Add ${String(missing)} more${instead}.`);
  } else if ((facts.even || limits.even === true) && count % 2 !== 0) {
    reasons.push(`Needs an even number of drives; ${areIn(count)}. Add one or leave one as a spare.`);
  }
  if (limits.most !== undefined && count > limits.most) {
    reasons.push(
      `Takes at most ${String(limits.most)} drives in one pool; ${areIn(count)}. Leave out ${String(count - limits.most)}.`,
    );
  }
  if (facts.isGrouped && count >= fewest) {
    const redundancy = facts.redundancy as number;
    if (width !== undefined) reasons.push(...present(whyWidthDoesNotFit(width, count, redundancy, limits)));
    else if (groupWidthsThatFit(count, redundancy, limits).length === 0) {
      reasons.push(
        `${String(count)} drives do not divide into equal groups this family can make. ${nearestCount(count, redundancy, limits)}`,
      );
    }
  }
  for (const { bay, bytes, systemBytes } of members) {
    if (bytes <= systemBytes) {
      reasons.push(`Bay ${bay} holds ${formatBytes(bytes)}, no more than the unit's own system area. Leave it out.`);
    }
  }
  for (const { bay, media = 'hard-disk' } of members) {
    const { name, fits } = figuresOf(media);
    if (!fits.some((kind) => profile.bays.kinds.includes(kind)))
      reasons.push(
        `Bay ${bay} is to hold an unfitting drive (${name}); the bays of this family are ${profile.bays.kinds.join(' and ')}.`,
      );
  }
  const largest = profile.bays.largestDriveBytes;
  for (const { bay, bytes } of members) {
    if (largest !== undefined && bytes > largest)
      reasons.push(`Bay ${bay} holds ${formatBytes(bytes)}; this family takes drives up to ${formatBytes(largest)}.`);
  }
  return reasons;
}

function areIn(count: number): string {
  return count === 1 ? '1 is in' : `${String(count)} are in`;
}

function present(reason: string | null): string[] {
  return reason === null ? [] : [reason];
}

function nearestCount(count: number, redundancy: number, limits: Parameters<typeof groupWidthsThatFit>[2]): string {
  const fits = (n: number): boolean => groupWidthsThatFit(n, redundancy, limits).length > 0;
  for (let step = 1; step <= count; step++) {
    const ways = [
      ...(fits(count - step) ? [`take away ${String(step)}`] : []),
      ...(fits(count + step) ? [`add ${String(step)}`] : []),
    ];
    const sentence = ways.join(' or ');
    if (sentence !== '') return `${sentence[0]?.toUpperCase() ?? ''}${sentence.slice(1)}.`;
  }
  return '';
}
