/** The next step after a plan was refused, as a link; `null` where the form itself asks for what is lacking. */
export interface WayOn {
  readonly href: string;
  readonly words: string;
}

type To = readonly [path: string, words: string];

/** What stands first after a refusal: by its code, under the address of the unit; one that begins with "//" is a place of its own. */
const WAYS: Readonly<Record<string, To>> = {
  thinned: ['/replace', 'Replace what is missing'],
  'others-missing': ['/replace', 'Replace what is missing'],
  'rests-on-sick': ['/replace', 'Replace the sick one first'],
  'sick-drive': ['//drives', 'Look for another drive'],
  'pool-lost': ['/rescue', 'Open the rescue desk'],
  'rebuild-runs': ['', 'See how far it is'],
  'job-runs': ['', 'See how far it is'],
  'plan-running': ['', 'See the plan that runs'],
  packed: ['/move', 'Go on with the move'],
  'enclosure-away': ['', 'See what has dropped out'],
  unguarded: ['?view=copies', 'See where its copies are'],
  'last-copy': ['?view=copies', 'See where its copies are'],
  'no-free-bay': ['/larger', 'Put in larger drives instead'],
  'no-room': ['/larger', 'Put in larger drives instead'],
  'most-members': ['/new-pool', 'Make one more pool'],
  'none-smaller': ['/grow', 'Add drives instead'],
  'not-offered': ['/new-pool', 'Make one more pool'],
  erases: ['/new-pool', 'Make a new pool'],
  'one-volume': ['/grow', 'Add drives to the pool there is'],
  'too-many': ['/move', 'Move to a newer unit'],
  'takes-none': ['/move', 'Move to a larger unit'],
  'own-files': ['/new-pool', 'Make one more pool'],
  'drive-too-small': ['//drives', 'Look what lies in drawers'],
  'spare-too-small': ['//drives', 'Look what lies in drawers'],
  unfitting: ['//drives', 'Look what lies in drawers'],
  'larger-than-parity': ['/larger', 'Replace parity first'],
  'holds-data': ['//drives', 'Record what became of it'],
  'is-cache': ['/cache', 'Renew the cache'],
  'no-cache': ['', 'Look at the unit'],
  'no-slot': ['', 'Look at the unit'],
  'not-a-member': ['', 'Look at the unit'],
  'not-missing': ['', 'Look at the unit'],
  retired: ['?view=about', 'See what became of it'],
};

/**
 * The way on from a refusal.
 *
 * @param unit the unit the plan was asked for
 */
export function wayOn(unit: string, code: string): WayOn | null {
  const to = WAYS[code];
  if (!to) return null;
  const [path, words] = to;
  return { href: path.startsWith('//') ? path.slice(1) : `/units/${unit}${path}`, words };
}
