import { sizedDrive } from '../drive/sizeOnPage';
import { factsOf, type Scheme } from '../layout/scheme';
import type { Profile } from '../platform/profile';
import { shownAmount } from '../quantity/shownAmount';
import { baysListed } from '../unit/baysListed';
import { bayName } from '../unit/bayName';
import type { FoundPool } from '../unit/poolFound';
import type { UnitState } from '../unit/state';
import { isRefusal, refusal, type Refusal } from '../value/refusal';
import { readPage } from './readPage';

/** A pool of a unit that runs already, in the words of the person who reads it off the unit's page. */
export interface PoolInWords {
  readonly name: string;
  /** Empty while it is not chosen. */
  readonly scheme: Scheme | '';
  /** How many drives make a group, where the layout has groups. */
  readonly groupWidth: string;
  /** "Head 1-4; Extension 1 2". */
  readonly members: string;
  readonly spares: string;
  /** "21.4 TiB" each; empty where the page does not say. */
  readonly shown: string;
  readonly used: string;
  /** A date; empty where nobody knows. */
  readonly builtOn: string;
  /** One a line: name, size, and "thin" where it is. */
  readonly volumes: string;
}

/** What stands in a running unit, as it is registered. */
export interface Running {
  /** Bays of the drives that are cache of the unit. */
  readonly cache: readonly string[];
  readonly drives: readonly ({
    readonly bay: string;
    readonly boughtOn?: string;
    readonly shows?: 'failed' | 'signs';
  } & ReturnType<typeof sizedDrive>)[];
  readonly pools: readonly (FoundPool & {
    readonly usedBytes?: number;
    readonly volumes?: readonly { readonly name: string; readonly bytes: number; readonly thin: boolean }[];
  })[];
}

/** No volume is written longer; what reads it looks at every character more than once. */
const LONGEST_LINE = 200;

/** Its boxes as cabled, and its family, whose page it is. */
type Boxes = Pick<UnitState, 'enclosures'> & { readonly profile: Pick<Profile, 'unitPage'> };

/**
 * A running unit from what its page shows: the drives from pasted text, its pools as a person names them. Nothing is
 * guessed: a line without serial or size is refused with its number, as is a bay that is named and empty.
 *
 * @param cache bays of its cache drives, in words; empty where it has none
 * @param boughtOn when the drives were bought, asked once for all of them; empty where nobody knows
 */
export function readRunning(
  boxes: Boxes,
  page: string,
  pools: readonly PoolInWords[],
  boughtOn = '',
  cache = '',
): Running | Refusal {
  const report = readPage(page, { ...boxes, drives: {} });
  const [odd] = report.unread;
  const bays = boxes.enclosures.reduce((sum, box) => sum + box.bays.length, 0);
  if (odd)
    return refusal(
      'line-unread',
      `Line ${String(odd.line)} names no bay of these boxes, or one of several: "${odd.text}". The boxes above have ${bays === 1 ? 'one bay' : `${String(bays)} bays`} in all.`,
      '/drives',
    );
  const drives: Running['drives'][number][] = [];
  for (const { line, bay, serial, size, state } of report.bays) {
    if (state === 'empty') continue;
    if (serial === undefined) return refusal('serial-missing', `Line ${String(line)} shows no serial.`, '/drives');
    if (size === undefined) return refusal('size-missing', `Line ${String(line)} shows no size.`, '/drives');
    if (drives.some((drive) => drive.bay === bay))
      return refusal(
        'bay-twice',
        `Line ${String(line)} names ${bayName(boxes, bay)}, which an earlier line names too.`,
        '/drives',
      );
    if (state === 'rebuilding')
      return refusal(
        'work-runs',
        `Line ${String(line)}: ${bayName(boxes, bay)} is being rebuilt. Pull nothing, and register the unit once that is done.`,
        '/drives',
      );
    const shows = state === 'failed' ? 'failed' : state === 'sick' ? 'signs' : undefined;
    drives.push({
      bay,
      ...sizedDrive(serial, size),
      ...(boughtOn === '' ? {} : { boughtOn }),
      ...(shows === undefined ? {} : { shows }),
    });
  }
  const found: Running['pools'][number][] = [];
  for (const [i, pool] of pools.entries()) {
    const read = readPool(boxes, pool, drives);
    if (isRefusal(read)) return { ...read, pointer: `/pools/${String(i)}${read.pointer ?? ''}` };
    found.push(read);
  }
  const cached = baysListed(boxes, cache);
  if (isRefusal(cached)) return { ...cached, pointer: '/cache' };
  return { drives, pools: found, cache: cached };
}

function readPool(boxes: Boxes, pool: PoolInWords, drives: Running['drives']): Running['pools'][number] | Refusal {
  const { scheme } = pool;
  if (scheme === '') return refusal('scheme-missing', 'Say which layout it has.', '/scheme');
  const members = baysListed(boxes, pool.members);
  if (isRefusal(members)) return { ...members, pointer: '/members' };
  if (members.length === 0) return refusal('members-missing', 'Say which bays its drives are in.', '/members');
  const spares = baysListed(boxes, pool.spares);
  if (isRefusal(spares)) return { ...spares, pointer: '/spares' };
  // No pool shows more than its drives are.
  const most = drives.reduce((sum, { bay, bytes }) => (members.includes(bay) ? sum + bytes : sum), 0);
  const shownBytes = pool.shown.trim() === '' ? undefined : shownAmount(pool.shown, boxes.profile.unitPage, most);
  if (isRefusal(shownBytes)) return { ...shownBytes, pointer: '/shownBytes' };
  const usedBytes = pool.used.trim() === '' ? undefined : shownAmount(pool.used, boxes.profile.unitPage, most);
  if (isRefusal(usedBytes)) return { ...usedBytes, pointer: '/usedBytes' };
  const volumes: { name: string; bytes: number; thin: boolean }[] = [];
  for (const line of pool.volumes.split('\n').filter((one) => one.trim() !== '')) {
    const [, name = '', size = '', thin] =
      /^\s*(.+?)[\s,:;]+(\d[\d.,]* ?[kmgtp]i?b)(?:[\s,;]+(thin))?\s*$/i.exec(line.slice(0, LONGEST_LINE)) ?? [];
    // What is thin may be promised more than there is.
    const bytes = shownAmount(size, boxes.profile.unitPage, thin === undefined ? most : undefined);
    if (isRefusal(bytes) && bytes.code === 'size-either') return { ...bytes, pointer: '/volumes' };
    if (isRefusal(bytes))
      return refusal(
        'volume-unreadable',
        `"${line.trim().slice(0, 60)}" is no volume: write its name, its size, and "thin" where it is.`,
        '/volumes',
      );
    volumes.push({ name, bytes, thin: thin !== undefined });
  }
  return {
    name: pool.name.trim(),
    scheme,
    ...(factsOf(scheme).isGrouped && pool.groupWidth !== '' ? { groupWidth: Number(pool.groupWidth) } : {}),
    members,
    ...(spares.length === 0 ? {} : { spares }),
    ...(shownBytes === undefined ? {} : { shownBytes }),
    ...(usedBytes === undefined ? {} : { usedBytes }),
    ...(pool.builtOn === '' ? {} : { builtAt: `${pool.builtOn}T00:00:00Z` }),
    ...(volumes.length === 0 ? {} : { volumes }),
  };
}
