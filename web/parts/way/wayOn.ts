/** The next step after something was refused, a plan or an entry, as a link; `null` where the form itself asks for what is lacking. */
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
  'spare-waits': ['/replace', 'Let the spare stand in'],
  'is-cache': ['/cache', 'Renew the cache'],
  'no-cache': ['', 'Look at the unit'],
  'no-slot': ['', 'Look at the unit'],
  'not-a-member': ['', 'Look at the unit'],
  'not-missing': ['', 'Look at the unit'],
  'bay-occupied': ['', 'See what stands there'],
  'drive-elsewhere': ['', 'See where it stands'],
  'drive-in-pool': ['', 'See what it belongs to'],
  'drive-in-bay': ['//drives', 'See where it stands'],
  'drive-destroyed': ['//drives', 'See what became of it'],
  'drive-not-here': ['', 'See what stands here'],
  'not-working': ['', 'See what is wrong with it'],
  'nothing-to-rebuild': ['?view=copies', 'See where its copies are'],
  'member-left-out': ['/replace', 'Replace it'],
  'not-whole': ['/replace', 'Rebuild onto it'],
  'still-missing': ['/rescue', 'Open the rescue desk'],
  'work-runs': ['', 'See how far it is'],
  'not-empty': ['/retire', 'Retire it by its plan'],
  'pools-left': ['/retire', 'Retire it by its plan'],
  'unit-on': ['/move', 'Go on with the move'],
  'not-as-it-left': ['/move', 'Go on with the move'],
  'switched-off': ['', 'Record that it is on'],
  'enclosure-unknown': ['?view=about', 'See its boxes'],
  'job-unknown': ['', 'See what runs'],
  'job-exists': ['', 'See what runs'],
  'version-conflict': ['', 'Look again'],
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
