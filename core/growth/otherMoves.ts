import { factsOf } from '../layout/scheme';
import { redundancyOf, type PoolDrive } from '../pool/builtPool';
import { leastConversion } from '../pool/converted';
import { extensionsLeft, whyNotExtended, withBox } from '../unit/enclosures';
import { isRefusal } from '../value/refusal';
import { sizesFor, type Allowed, type Growing, type Move } from './growing';

/** One more box behind the last, where the family reaches so far: bays, and no space before drives are added to them. */
export function extensionsFrom(growing: Growing, { kinds, extension }: Allowed): Move[] {
  if (!kinds.includes('extend') || !extension) return [];
  const { profile, boxes, free } = growing;
  const home = { enclosures: boxes, profile, name: '', away: [] };
  if (whyNotExtended(home, extension.bays)) return [];
  // How it will be called, and the number on its dial, is said when it is there: here they only have to be no other's.
  const n = Math.max(boxes.length, ...boxes.map(({ dial = 0 }) => dial)) + 1;
  const box = withBox(home, { name: `box to come, ${String(n)}`, bays: extension.bays, dial: n });
  if (isRefusal(box)) return [];
  return [
    {
      kind: 'extend',
      bays: box.bays,
      bytes: 0,
      after: { ...growing, boxes: [...boxes, box], free: [...free, ...box.bays] },
    },
  ];
}

/**
 * Every other level the family makes of it with the data kept, with as few drives added as that takes, of each size.
 *
 * @param usedBytes what is in it by then: it has to fit
 */
export function conversionsFrom(growing: Growing, allowed: Allowed, usedBytes: number): Move[] {
  const { kinds, leastMargin } = allowed;
  const { profile, pool, drives, free } = growing;
  if (!kinds.includes('convert') || redundancyOf(pool) < leastMargin) return [];
  return profile.growth.conversions
    .filter(({ from, keepsData }) => from === pool.scheme && keepsData)
    .flatMap(({ to }) => {
      return [0, ...sizesFor(growing, allowed)].flatMap((bytes): Move[] => {
        const fresh = bytes === 0 ? [] : free.map((name): PoolDrive => ({ name, bytes }));
        const made = leastConversion(profile, pool, to, drives, fresh, usedBytes);
        if (isRefusal(made) || made.addedDrives > 0 !== bytes > 0) return [];
        const { groupWidth: _none, ...kept } = pool;
        const after = { ...kept, scheme: to, bands: made.bands };
        if (factsOf(to).isGrouped || redundancyOf(after) < leastMargin) return [];
        const added = fresh.slice(0, made.addedDrives);
        const { usableBytes, shownBytes } = made;
        return [
          {
            kind: 'convert',
            to,
            bays: added.map(({ name }) => name),
            bytes: added.length === 0 ? 0 : bytes,
            after: {
              ...growing,
              pool: after,
              drives: new Map([...drives, ...added.map((drive) => [drive.name, drive] as const)]),
              free: free.slice(added.length),
              usableBytes,
              shownBytes,
            },
          },
        ];
      });
    });
}

/** So many more bays as extensions can still give. */
export function baysToCome({ profile, boxes }: Growing, { kinds, extension }: Allowed): number {
  if (!kinds.includes('extend') || !extension) return 0;
  return extension.bays * extensionsLeft({ enclosures: boxes, profile, name: '', away: [] }, extension.bays);
}

/** Whether its level may still be changed, so that what it holds is no longer bounded by the one it has. */
export function mayConvert({ profile, pool }: Growing, { kinds }: Allowed): boolean {
  return (
    kinds.includes('convert') &&
    profile.growth.conversions.some(({ from, keepsData }) => from === pool.scheme && keepsData)
  );
}
