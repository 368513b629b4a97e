import { factsOf, schemeWords, type Scheme } from '../layout/scheme';
import type { Profile } from './profile';

/** What a family that builds by count makes of so many drives, by itself at its first power-on; `undefined` where it asks. */
export function madeAtFirstStart({ growth }: Pick<Profile, 'growth'>, drives: number): Scheme | undefined {
  if (!growth.firstPowerOnDecides) return undefined;
  return growth.firstPowerOn?.filter((one) => one.drives <= drives).at(-1)?.scheme;
}

/** What is to be made of drives, as far as the first power-on goes. */
interface Wanted {
  readonly scheme: Scheme;
  readonly spares?: number | undefined;
  readonly groupWidth?: number | undefined;
}

/** True where the first power-on makes something else of so many drives than is wanted. */
export function isMadeOtherwise(
  profile: Pick<Profile, 'growth'>,
  drives: number,
  { scheme, spares = 0, groupWidth }: Wanted,
): boolean {
  const made = madeAtFirstStart(profile, drives);
  return made !== undefined && (made !== scheme || spares > 0 || groupWidth !== undefined);
}

/** Said wherever a layout is chosen for such a family; `undefined` where the first power-on makes just that. */
export function madeOtherwiseWords(
  profile: Pick<Profile, 'growth' | 'name'>,
  drives: number,
  wanted: Wanted,
): string | undefined {
  const made = madeAtFirstStart(profile, drives);
  if (made === undefined || !isMadeOtherwise(profile, drives, wanted)) return undefined;
  return `${profile.name} makes ${schemeWords(made)} of ${drives === 1 ? 'one drive' : `${String(drives)} drives`} by itself, at the first power-on. The plan has that deleted while it is empty, and ${factsOf(wanted.scheme).name.toLowerCase()} made instead.`;
}
