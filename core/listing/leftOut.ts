/**
 * Folders and files that an operating system or a file service keeps beside the data, and that differ at both ends without
 * anything being lost: recycle areas, thumbnails, settings of a folder's view.
 */
export const LEFT_OUT: readonly string[] = [
  '$recycle.bin',
  'recycler',
  '.recycle',
  '.trash',
  '.trash-*',
  '.trashes',
  '.thumbnails',
  'thumbs.db',
  'desktop.ini',
  '.ds_store',
  'system volume information',
  'lost+found',
];

/**
 * Tells whether a path lies in, or is, one of the names left out; capitals count for nothing, and a `*` at the end of a name
 * stands for anything. Only there: more of them would take more than one pass over a path.
 */
export function leavesOut(names: readonly string[]): (path: string) => boolean {
  if (names.length === 0) return () => false;
  const plain = (name: string): string => name.replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&');
  const any = names.map((name) => (name.endsWith('*') ? `${plain(name.slice(0, -1))}[^/]*` : plain(name))).join('|');
  const found = new RegExp(`(?:^|/)(?:${any})(?:/|$)`, 'i');
  return (path) => found.test(path);
}
