/**
 * Folders and files that an operating system or a file service keeps beside the data, and that differ at both ends without
 * anything being lost: recycle areas, thumbnails, settings of a folder's view.
 */
export const LEFT_OUT: readonly string[] = [
  '$recycle.bin',
  'recycler',
  '.recycle',
  '#recycle',
  '.trash',
  '.trashes',
  '.thumbnails',
  'thumbs.db',
  'desktop.ini',
  '.ds_store',
  'system volume information',
  'lost+found',
];

/**
 * Whether a path lies in, or is, one of the names left out; capitals count for nothing.
 *
 * @param names in small letters
 */
export function isLeftOut(path: string, names: ReadonlySet<string>): boolean {
  if (names.size === 0) return false;
  let from = 0;
  while (from <= path.length) {
    let to = path.indexOf('/', from);
    if (to < 0) to = path.length;
    const name = path.slice(from, to).toLowerCase();
    if (names.has(name) || (name.startsWith('.trash-') && names.has('.trash'))) return true;
    from = to + 1;
  }
  return false;
}
