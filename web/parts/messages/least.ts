import type { Severity } from '~/core/tell/severity';
import { SEVERITIES } from '~/schemas/tell';

/** What a rule's least means to whoever is told. */
export const LEAST: Readonly<Record<Severity, string>> = {
  margin: 'only what lowers a margin, or endangers data',
  sign: 'what lowers a margin, and signs to look at within the day',
  care: 'everything: upkeep, age and room too',
};
export const LEAST_OPTIONS = SEVERITIES.map((value) => ({ value, words: LEAST[value] }));
