import { SEVERITY_WORDS, type Severity } from '~/core/tell/severity';
import { SEVERITIES } from '~/schemas/tell';

/** What a rule's least means to whoever is told. */
export const LEAST: Readonly<Record<Severity, string>> = {
  margin: 'only when a margin is lower or data is in danger',
  sign: 'that, and signs to look at within the day',
  care: 'everything, upkeep and age too',
};
export const LEAST_OPTIONS = SEVERITIES.map((value) => ({ value, words: LEAST[value], detail: SEVERITY_WORDS[value] }));
