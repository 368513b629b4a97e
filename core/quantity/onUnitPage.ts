import { formatBytes } from './formatBytes';

/** How a family's page counts space, and which unit it prints: some count in 1024s and print "TB". */
export interface UnitPage {
  readonly counts: 'TB' | 'TiB';
  readonly prints: 'TB' | 'TiB';
}

/**
 * A size as the unit's own page writes it, with what it means where that is something else: "926.89 GB, and means GiB".
 *
 * @param bytes whole bytes, 0 and up
 * @param digits digits after the point, as in `formatBytes`
 */
export function onUnitPage(bytes: number, { counts, prints }: UnitPage, digits = 2): string {
  const figure = formatBytes(bytes, counts === 'TiB' ? 'binary' : 'decimal', digits);
  if (counts === prints) return figure;
  const [size, unit = 'B'] = figure.split(' ');
  const printed = prints === 'TB' ? unit.replace('iB', 'B') : unit.replace(/^([KMGTP])B$/i, '$1iB');
  return printed === unit ? figure : `${size ?? ''} ${printed}, and means ${unit}`;
}
