/** The places of the application, with the key that goes there. */
export const PLACES = [
  { href: '/', name: 'Shelf', key: 's' },
  { href: '/drives', name: 'Drives', key: 'd' },
  { href: '/bench', name: 'Layout bench', key: 'l' },
  { href: '/plans', name: 'Plans', key: 'p' },
  { href: '/upkeep', name: 'Upkeep', key: 'u' },
  { href: '/settings', name: 'Settings', key: ',' },
] as const;

/** Keys that do the same everywhere, for the list under "?". */
export const EVERYWHERE = [
  ...PLACES.map(({ name, key }) => ({ key, does: `Go to ${name}` })),
  { key: 'n', does: 'Record what happened' },
  { key: '/', does: 'Find or scan a serial, a unit, a place' },
  { key: '?', does: 'Show these keys' },
  { key: '← → ↑ ↓', does: 'Walk the bays of a unit, or the layouts on the bench' },
  { key: 'Esc', does: 'Close what is open' },
] as const;
