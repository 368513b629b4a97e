import { isSameName } from '../value/sameName';
import { freeName } from '../unit/freeName';
import { shownAmounts } from '../quantity/shownAmount';
import type { StatedUnitEvent } from '../../schemas/unitEvent';
import type { Scheme } from '../layout/scheme';
import { factsOf } from '../layout/scheme';
import { idleBays, poolChanged } from '../unit/poolChanged';
import { poolsOf, type Pool, type UnitState } from '../unit/state';
import { isRefusal } from '../value/refusal';

/** A volume is called by its name behind the word: "volume Projects". */
const SAID =
  /\bvolume ["“]?(.+?)["”]? ?(?:,? (?:is |was |has been )?)?(grown|enlarged|extended|resized|now|added|made|created|new|removed|deleted|gone)\b(.*)$/i;
/** "changed to level 6", "is double parity now". */
const LEVEL_CHANGED = /\b(?:changed|converted|went|became|turned|is now|now is|is .* now)\b/;
const POOL_GONE = /\b(erased|destroyed|taken apart|deleted|wiped)\b/;

/**
 * What a sentence says of volumes and pools as a whole: "volume Projects grown to 90 TiB", "volume Scans added, 5 TiB thin,
 * on Archive", "volume Scans removed", "pool Archive erased", "pool Archive changed to level 6". Where several pools can be meant, each is offered.
 */
export function aboutVolumes(unit: UnitState, said: string): StatedUnitEvent[] {
  const low = said.toLowerCase();
  const pools = poolsOf(unit);
  const named = pools.filter(({ name }) => low.includes(name.toLowerCase()));
  const [, name = '', verb = '', rest = ''] = SAID.exec(said) ?? [];
  const changed =
    name === '' && LEVEL_CHANGED.test(low)
      ? (named.length > 0 ? named : pools).flatMap((pool) => levelChanged(unit, pool, low))
      : [];
  if (changed.length > 0) return changed;
  if (name === '')
    return POOL_GONE.test(low) ? named.map(({ id }): StatedUnitEvent => ({ kind: 'pool-destroyed', pool: id })) : [];
  const known = Object.values(unit.volumes).filter((volume) => isSameName(volume.name, name));
  if (/removed|deleted|gone/i.test(verb))
    return known.map(({ id }): StatedUnitEvent => ({ kind: 'volume-removed', volume: id }));
  const amounts = shownAmounts(/\d[\d.,]* ?[kmgtp]i?b\b/i.exec(rest)?.[0] ?? '', unit.profile.unitPage);
  // What can be read as either of two is offered as both.
  return isRefusal(amounts) ? [] : amounts.filter((bytes) => bytes > 0).flatMap(setTo);

  function setTo(bytes: number): StatedUnitEvent[] {
    if (known.length > 0)
      return known.map(({ id: volume, ...body }): StatedUnitEvent => ({ ...body, kind: 'volume-set', volume, bytes }));
    // What is to be grown and is not there has another name.
    if (!/added|made|created|new/i.test(verb)) return [];
    const thin = /\bthin\b/.test(rest.toLowerCase());
    const on = (pool: Pool): StatedUnitEvent => ({
      kind: 'volume-set',
      volume: freeName(unit.volumes, 'volume'),
      pool: pool.id,
      name: name.slice(0, 60),
      bytes,
      thin,
    });
    return (named.length > 0 ? named : pools).map(on);
  }
}

/** A level by its number, or by its plain name. */
function isNamed(scheme: Scheme, low: string): boolean {
  const [, plain = '', number] = /^(.*?)(?: \((level \d+)\))?$/.exec(factsOf(scheme).name.toLowerCase()) ?? [];
  return low.includes(plain) || (number !== undefined && new RegExp(`\\b${number}\\b`).test(low));
}

/** A change of level the family offers, by the one rule for built pools: with as few of the idle drives as it takes. */
function levelChanged(unit: UnitState, pool: Pool, low: string): StatedUnitEvent[] {
  const to = unit.profile.growth.conversions
    .filter((one) => one.from === pool.scheme && isNamed(one.to, low))
    .map((one) => one.to);
  const idle = idleBays(unit);
  return to.flatMap((scheme) => {
    for (let count = 0; count <= idle.length; count++) {
      const event = poolChanged(unit, { kind: 'became', pool: pool.id, to: scheme, bays: idle.slice(0, count) }, '');
      if (!isRefusal(event) && event.kind === 'pool-converted') return [event];
    }
    return [];
  });
}
