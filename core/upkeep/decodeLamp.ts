import { isThinned } from '../unit/margin';
import { poolsOf, type UnitState } from '../unit/state';
import type { Profile } from '../platform/profile';

export interface LampMeaning {
  readonly kind: 'lamp-meaning';
  readonly see: string;
  /** What it means in this family. */
  readonly means: string;
  /** What it means on this unit at this moment. */
  readonly now: string;
  /** True when it is only what the work under way makes it show: nothing new has happened. */
  readonly isExpected: boolean;
  readonly silence: string;
}

/** What can be seen or heard on units of this family. The same yellow is "new firmware" here and "dying drive" there. */
export function lampsOf(profile: Profile): readonly Profile['lamps'][number][] {
  return profile.lamps;
}

/** Words that say of every lamp that it is one. */
const LAMP_SAID = new Set(['bay', 'unit', 'lamp', 'lamps', 'light', 'led', 'the', 'a', 'is', 'of', 'at', 'its', 'and', 'every']);

/** Words of a sentence that tell one sign from another. */
function tellingWords(text: string): string[] {
  return text
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '' && !LAMP_SAID.has(word));
}

/**
 * The sign of the family that a sentence describes in its own words, all of which it must hold: the one with the most of
 * them. One of a bay's lamp only where the words are of a bay.
 */
export function lampMeant(profile: Profile, text: string, isOfBay: boolean): Profile['lamps'][number] | undefined {
  const said = new Set(tellingWords(text));
  return profile.lamps
    .filter(({ see }) => isOfOneBay(see) === isOfBay && tellingWords(see).length > 0 && tellingWords(see).every((word) => said.has(word)))
    .sort((a, b) => tellingWords(b.see).length - tellingWords(a.see).length)[0];
}

/** True for a sign that one bay shows. */
export function isOfOneBay(see: string): boolean {
  return /^bay\b/i.test(see);
}

/**
 * Reads one lamp or beep on one unit: what it means in its family, and whether the record already explains it.
 *
 * @param see one of the family's signs, word for word; anything else is `null`
 */
export function decodeLamp(unit: UnitState, see: string): LampMeaning | null {
  const lamp = unit.profile.lamps.find((one) => one.see === see);
  if (!lamp) return null;
  const { explainedBy = 'nothing', means, silence } = lamp;
  const lost = poolsOf(unit).find((pool) => pool.lost.length > 0);
  // The worst reading wins: of a lost pool no lamp is "only thinned" or "only at work".
  if (lost)
    return Object.freeze({
      kind: 'lamp-meaning',
      see,
      means,
      now: `${lost.name} has lost more than it survives. Pull nothing, fit nothing, restart nothing, whatever it shows: open the rescue desk.`,
      isExpected: false,
      silence,
    });
  const running = Object.values(unit.jobs);
  const known = {
    nothing: false,
    thinned: isThinned(unit),
    work: running.length > 0,
    part: unit.parts.length > 0 || unit.away.length > 0,
    start: unit.power === 'off',
  }[explainedBy];
  const unexplained = {
    nothing: 'The record knows nothing that explains it: take it as new.',
    thinned: 'The record has every member well: take it as new. Compare the unit’s page with the record before touching a drive.',
    work: 'The record knows of no work under way: look at the unit’s page.',
    part: 'The record has every part well: take it as new.',
    start: 'The record has the unit running: give it a quarter of an hour before you believe it.',
  }[explainedBy];
  return Object.freeze({
    kind: 'lamp-meaning',
    see,
    means,
    now: known ? (lamp.now ?? 'Expected: the record explains it.') : unexplained,
    isExpected: known,
    silence,
  });
}
