import { MOST_PROBLEMS, plainPath, PROGRESS_LINES, type ListedFile, type Listing, type Progress } from './listing';

/** MD5, SHA-1, SHA-224, SHA-256, SHA-384, SHA-512: hexadecimal digits of each. */
const SUM_LENGTHS = new Set([32, 40, 56, 64, 96, 128]);
const HEX = /^[0-9a-f]+$/i;
const BSD_SUM = /^[A-Z0-9-]+ \((.+)\) = ([0-9a-fA-F]+)$/;
const SIZE_TIME_PATH = /^(\d+)[\t ]+(\d{9,10}(?:\.\d+)?)[\t ]+(.+)$/;
const LONG = /^([-dlcbps])[-rwxsStT]{9}[+.@]?\s+\d+\s+\S+\s+\S+\s+(\d+)\s+\S+\s+\S+\s+\S+\s(.+)$/;

/**
 * A list of files as common commands write it: checksum and path (with or without the mark of binary reading, as a BagIt
 * manifest too: RFC 8493), "NAME (path) = checksum", size, time and path, the long listing of every folder, or paths alone.
 *
 * @param text lines end with LF or CRLF; a million of them are no trouble
 * @returns what was read; lines that are no file with the reason, the first of them one by one
 */
export function readListing(text: string, progress?: Progress): Listing {
  const files: ListedFile[] = [];
  const problems: Listing['problems'][number][] = [];
  let problemCount = 0;
  const wrong = (line: number, reason: string): void => {
    problemCount++;
    if (problems.length < MOST_PROBLEMS) problems.push({ line, reason });
  };
  let folder = '';
  let isLong = false;
  let [at, line] = [text.startsWith('\uFEFF') ? 1 : 0, 0];
  while (at < text.length) {
    let end = text.indexOf('\n', at);
    if (end < 0) end = text.length;
    const one = text.slice(at, text[end - 1] === '\r' ? end - 1 : end);
    at = end + 1;
    line++;
    if (progress && line % PROGRESS_LINES === 0) progress(at / text.length);
    if (one === '') continue;
    if (one.endsWith(':') && !HEX.test(one.split(' ', 1)[0] ?? '')) {
      // The head of a folder in a long listing.
      folder = one.slice(0, -1);
      isLong = true;
      continue;
    }
    if (isLong) {
      const entry = LONG.exec(one);
      if (entry) {
        if (entry[1] === '-') files.push({ path: plainPath(`${folder}/${entry[3] ?? ''}`), size: Number(entry[2]) });
      } else if (!/^total \d+/.test(one)) wrong(line, 'no line of a long listing');
      continue;
    }
    const file = fileOf(one);
    if (typeof file === 'string') wrong(line, file);
    else files.push(file);
  }
  return { kind: 'listing', files, problems, problemCount };
}

function fileOf(line: string): ListedFile | string {
  const isEscaped = line.startsWith('\\');
  // A blank or, in a manifest, a tab (RFC 8493, 2.1.3).
  const space = line.search(/[ \t]/);
  const first = space < 0 ? '' : line.slice(isEscaped ? 1 : 0, space);
  if (SUM_LENGTHS.has(first.length) && HEX.test(first)) {
    // Two spaces, or a space and the mark of binary reading; a manifest may have any white space.
    const rest = line.slice(space).replace(/^\s+\*?/, '');
    if (rest === '') return 'a checksum without a path';
    return { path: plainPath(isEscaped ? unescaped(rest) : unquoted(rest)), sum: first.toLowerCase() };
  }
  const bsd = BSD_SUM.exec(line);
  if (bsd) return { path: plainPath(bsd[1] ?? ''), sum: (bsd[2] ?? '').toLowerCase() };
  const dated = SIZE_TIME_PATH.exec(line);
  if (dated)
    return { path: plainPath(dated[3] ?? ''), size: Number(dated[1]), time: Math.round(Number(dated[2]) * 1000) };
  const path = plainPath(line.trim());
  return path === '' || path === '.' ? 'no path' : { path };
}

/** Backslash and line feed in a name, as checksum commands write them. */
function unescaped(path: string): string {
  return path.replaceAll(/\\([\\nr])/g, (_all, one: string) => (one === 'n' ? '\n' : one === 'r' ? '\r' : '\\'));
}

/** Line ends and the percent sign in a name, as a manifest writes them (RFC 8493, 2.1.3). */
function unquoted(path: string): string {
  return path.startsWith('data/') && path.includes('%')
    ? path.replaceAll(/%(0A|0D|25)/gi, (_all, code: string) => String.fromCharCode(parseInt(code, 16)))
    : path;
}
