import { SEVERITIES } from '../../schemas/tell';
import type { NeedCode } from '../upkeep/need';

export type Severity = (typeof SEVERITIES)[number];

export const SEVERITY_WORDS: Readonly<Record<Severity, string>> = {
  margin: 'a margin is lower, or data is in danger',
  sign: 'a sign to look at within the day',
  care: 'upkeep, age and room: in its turn',
};

const OF_NEED: Readonly<Record<NeedCode, Severity>> = {
  'data-lost': 'margin',
  'pool-stopped': 'margin',
  'enclosure-away': 'margin',
  'member-failed': 'margin',
  'no-margin': 'margin',
  'cache-unsafe': 'margin',
  'cache-worn': 'sign',
  'on-the-way': 'sign',
  'drives-unseen': 'sign',
  'unit-says-otherwise': 'sign',
  'unit-wrote': 'sign',
  // On nobody's word but a mail's; somebody has to look all the same, at night too.
  'unit-wrote-failure': 'margin',
  'watch-silent': 'sign',
  'sign-growing': 'sign',
  'sign-open': 'sign',
  'part-lost': 'sign',
  'no-copy': 'sign',
  'copy-failed': 'sign',
  'restore-failed': 'sign',
  'copy-target-full': 'sign',
  'thin-overcommitted': 'sign',
  slow: 'sign',
  'plan-open': 'care',
  'copy-old': 'care',
  'only-mirrors': 'care',
  'none-off-site': 'care',
  'never-restored': 'care',
  'near-full': 'care',
  'warranty-ending': 'care',
  'drive-old': 'care',
  'wears-out': 'care',
  'wear-together': 'care',
  'no-spare': 'care',
  'factory-password': 'care',
  'alarm-mail': 'care',
  'upkeep-due': 'care',
  'firmware-old': 'care',
  'no-baseline': 'care',
};

/** How soon somebody has to know of a need. */
export function severityOf(code: NeedCode): Severity {
  return OF_NEED[code];
}

/** True where one is as grave as another, or graver. */
export function isAtLeast(one: Severity, least: Severity): boolean {
  return SEVERITIES.indexOf(one) <= SEVERITIES.indexOf(least);
}
