import { absorption, atRates, type Absorption, type SparseChain } from './absorption';
import { beyondAnyLife } from './beyondAnyLife';
import type { AlikeMembers, MemberGroup } from './memberGroup';

/** Ways to end, as `absorption` numbers them. */
export const LOST = 0;
export const UNREADABLE = 1;

/** More states than this are not walked: members are taken together first. */
const MOST_STATES = 20_000;

/**
 * A group of members as a Markov chain over which of them are missing, those that are alike told apart only by their
 * number, and over how many orders are on the way.
 *
 * Every failure orders a drive; orders arrive side by side, each after `orderHours` in the mean. With k missing, S spares
 * and o orders on the way, S + k − o drives are in hand: so many members are rebuilt, or one where repairs come one after
 * another, whichever of the missing alike likely. It is lost when a band has lost more than it may; counted once, whatever
 * bands that are. A rebuild that reads a band which may lose none more meets an unreadable sector with the chance of all the
 * bytes it reads there: that ends the chain where `endsAtUnreadable`, and else it goes on.
 */
export function lifeOfGroup(group: MemberGroup, endsAtUnreadable: boolean): Absorption {
  const rare = beyondAnyLife(group);
  if (rare) return atRates([rare.lost, endsAtUnreadable ? rare.unreadable : 0]);
  const chain = chainOf(group);
  return absorption(endsAtUnreadable ? chain.reading : chain.failing);
}

/** Its life by failures alone; and as far as a rebuild that can lose none more meets an unreadable sector, where any is rebuilt. */
export function livesOfGroup(group: MemberGroup): {
  readonly failing: Absorption;
  readonly reading: Absorption | null;
} {
  const rare = beyondAnyLife(group);
  if (rare) return { failing: atRates([rare.lost, 0]), reading: atRates([rare.lost, rare.unreadable]) };
  const chain = chainOf(group);
  const isGuarded = group.bands.some(({ redundancy }) => redundancy > 0);
  return { failing: absorption(chain.failing), reading: isGuarded ? absorption(chain.reading) : null };
}

/** Members taken together that have the same figures and stand in the same bands. */
export function alikeMembers(
  members: readonly string[],
  bands: readonly { readonly members: readonly string[] }[],
  figuresOfMember: (member: string) => Omit<AlikeMembers, 'count' | 'bands'>,
): AlikeMembers[] {
  const bandsOf = new Map<string, number[]>(members.map((member) => [member, []]));
  for (const [i, band] of bands.entries()) for (const member of band.members) bandsOf.get(member)?.push(i);
  const kinds: { -readonly [K in keyof AlikeMembers]: AlikeMembers[K] }[] = [];
  for (const member of members) {
    const { failureRate, rebuildHours, unreadablePerByte } = figuresOfMember(member);
    const of = bandsOf.get(member) ?? [];
    const kind = kinds.find(
      (one) =>
        one.failureRate === failureRate &&
        one.rebuildHours === rebuildHours &&
        one.unreadablePerByte === unreadablePerByte &&
        one.bands.length === of.length &&
        one.bands.every((band, i) => band === of[i]),
    );
    if (kind) kind.count++;
    else kinds.push({ failureRate, rebuildHours, unreadablePerByte, bands: of, count: 1 });
  }
  return kinds;
}

interface State {
  /** The kinds of those that are missing, in order, each as often as members of it are. */
  readonly missing: readonly number[];
  readonly orders: number;
}

/** One and the same group, by failures alone and with an end at an unreadable sector. */
interface Chains {
  readonly failing: SparseChain;
  readonly reading: SparseChain;
}

function chainOf(group: MemberGroup): Chains {
  return tryChain(group, MOST_STATES) ?? (tryChain(takenTogether(group), Infinity) as Chains);
}

function tryChain(group: MemberGroup, most: number): Chains | null {
  const { kinds, bands, repairs, spares, orderHours, othersFailureRate = 0 } = group;
  const waits = orderHours > 0 && bands.some(({ redundancy }) => redundancy > 0);
  const found = new Map<string | number, number>();
  const states: State[] = [];
  const indexOf = (missing: readonly number[], orders: number): number => {
    // Where all are alike only their number says which are missing.
    const key = kinds.length === 1 ? missing.length * MOST_STATES + orders : `${missing.join()};${String(orders)}`;
    const known = found.get(key);
    if (known !== undefined) return known;
    found.set(key, states.length);
    states.push({ missing, orders });
    return states.length - 1;
  };
  /** Sectors expected unreadable when every member of a band is read as far as a rebuild reads it, by band. */
  const expectedIn = bands.map(({ readBytes }, band) =>
    kinds.reduce(
      (sum, kind) => sum + (kind.bands.includes(band) ? kind.count * kind.unreadablePerByte * readBytes : 0),
      0,
    ),
  );
  const failing = { begins: [0], to: [] as number[], rate: [] as number[], ends: 2 };
  const reading = { begins: [0], to: [] as number[], rate: [] as number[], ends: 2 };
  const addTo = ({ to, rate }: typeof failing, at: number, by: number): void => {
    if (by <= 0) return;
    to.push(at);
    rate.push(by);
  };
  const add = (at: number, by: number): void => {
    addTo(failing, at, by);
    addTo(reading, at, by);
  };
  const inBand = new Int32Array(bands.length);
  const ofKind = new Int32Array(kinds.length);
  const lostIn = new Float64Array(bands.length);
  indexOf([], 0);
  for (let i = 0; i < states.length; i++) {
    if (states.length > most) return null;
    const { missing, orders } = states[i] as State;
    inBand.fill(0);
    ofKind.fill(0);
    lostIn.fill(0);
    for (const kind of missing) {
      const { bands: of, unreadablePerByte } = kinds[kind] as AlikeMembers;
      ofKind[kind] = (ofKind[kind] as number) + 1;
      for (const band of of) {
        inBand[band] = (inBand[band] as number) + 1;
        lostIn[band] = (lostIn[band] as number) + unreadablePerByte * (bands[band] as Guarded).readBytes;
      }
    }
    const isThin = (band: number): boolean => (inBand[band] as number) >= (bands[band] as Guarded).redundancy;
    const gone = missing.length;
    const inHand = waits ? spares + gone - orders : gone;
    let lost = 0;
    for (let kind = 0; kind < kinds.length; kind++) {
      const { count, failureRate, bands: of } = kinds[kind] as AlikeMembers;
      const fails = (count - (ofKind[kind] as number)) * failureRate;
      if (fails <= 0) continue;
      if (of.some(isThin)) lost += fails;
      else add(indexOf(withOne(missing, kind), waits ? orders + 1 : 0), fails);
    }
    add(-1 - LOST, lost);
    // A state nothing leads to is not made: its pace would be everybody's.
    if (waits && orders > 0 && orderHours < Infinity) add(indexOf(missing, orders - 1), orders / orderHours);
    if (waits && inHand > 0 && othersFailureRate > 0) add(indexOf(missing, orders + 1), othersFailureRate);
    const repaired = repairs === 'serial' ? Math.min(1, gone, inHand) : Math.min(gone, inHand);
    let unreadable = 0;
    for (let at = 0; at < gone && repaired > 0; at++) {
      const kind = missing[at] as number;
      const here = ofKind[kind] as number;
      if (at > 0 && missing[at - 1] === kind) continue;
      const { rebuildHours, bands: of } = kinds[kind] as AlikeMembers;
      const each = (repaired * here) / gone / Math.max(rebuildHours, LEAST_HOURS);
      let expected = 0;
      for (const band of of) if (isThin(band)) expected += (expectedIn[band] as number) - (lostIn[band] as number);
      const chance = -Math.expm1(-expected);
      unreadable += each * chance;
      const mended = indexOf([...missing.slice(0, at), ...missing.slice(at + 1)], orders);
      addTo(failing, mended, each);
      addTo(reading, mended, each * (1 - chance));
    }
    addTo(reading, -1 - UNREADABLE, unreadable);
    failing.begins.push(failing.to.length);
    reading.begins.push(reading.to.length);
  }
  return { failing, reading };
}

type Guarded = MemberGroup['bands'][number];

function withOne(missing: readonly number[], kind: number): number[] {
  const at = missing.findIndex((one) => one > kind);
  return at < 0 ? [...missing, kind] : [...missing.slice(0, at), kind, ...missing.slice(at)];
}

/** A rebuild takes some time, however little there is. */
const LEAST_HOURS = 1e-3;

/** Too many that differ: taken as alike, by the least that is survived, the mean rate and the longest rebuild. */
function takenTogether(group: MemberGroup): MemberGroup {
  const count = group.kinds.reduce((sum, kind) => sum + kind.count, 0);
  const mean = (of: (kind: AlikeMembers) => number): number =>
    group.kinds.reduce((sum, kind) => sum + kind.count * of(kind), 0) / count;
  const redundancy = Math.min(...group.bands.map((band) => band.redundancy));
  return {
    ...group,
    kinds: [
      {
        count,
        failureRate: mean(({ failureRate }) => failureRate),
        rebuildHours: Math.max(...group.kinds.map(({ rebuildHours }) => rebuildHours)),
        unreadablePerByte: mean(({ unreadablePerByte }) => unreadablePerByte),
        bands: [0],
      },
    ],
    bands: [{ redundancy, readBytes: group.bands.reduce((sum, { readBytes }) => sum + readBytes, 0) }],
  };
}
