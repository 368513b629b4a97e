import type { Enclosure } from './state';

/**
 * Enclosures in one line that fits an address: "Head=1~16;Extension%201@1=17~32". Bays that follow one another as numbers
 * are written as the first and the last; the number on a dial stands behind the name.
 */
export function enclosuresText(enclosures: readonly Enclosure[]): string {
  return enclosures
    .map(
      ({ name, bays, dial }) =>
        `${encodeURIComponent(name)}${dial === undefined ? '' : `@${String(dial)}`}=${runsOf(bays).join(',')}`,
    )
    .join(';');
}

/** The enclosures of such a line; `null` for any other text, and where a bay would be there twice. */
export function readEnclosures(text: string): readonly Enclosure[] | null {
  const enclosures: Enclosure[] = [];
  for (const one of text.split(';')) {
    const [, name = '', dial, runs = ''] = /^([^=@;]+)(?:@(\d{1,3}))?=([^=;]+)$/.exec(one) ?? [];
    const bays = runs.split(',').flatMap(baysOfRun);
    if (name === '' || bays.length === 0 || bays.length > MOST_BAYS || bays.some((bay) => !BAY.test(bay))) return null;
    enclosures.push({ name: decoded(name), bays, ...(dial === undefined ? {} : { dial: Number(dial) }) });
  }
  const all = enclosures.flatMap(({ bays }) => bays);
  const isClear =
    new Set(all).size === all.length && new Set(enclosures.map(({ name }) => name)).size === enclosures.length;
  return isClear && all.length <= MOST_BAYS ? enclosures : null;
}

const MOST_BAYS = 1000;
const BAY = /^[\w.:/ -]{1,16}$/;
const NUMBER = /^[1-9]\d{0,5}$/;

function runsOf(bays: readonly string[]): string[] {
  const runs: string[][] = [];
  for (const bay of bays) {
    const last = runs.at(-1)?.at(-1);
    if (last !== undefined && NUMBER.test(last) && bay === String(Number(last) + 1)) runs.at(-1)?.push(bay);
    else runs.push([bay]);
  }
  return runs.map((run) => (run.length === 1 ? (run[0] as string) : `${run[0] ?? ''}~${run.at(-1) ?? ''}`));
}

function baysOfRun(run: string): string[] {
  const [first = '', last] = run.split('~');
  if (last === undefined) return [first];
  const count = NUMBER.test(first) && NUMBER.test(last) ? Number(last) - Number(first) + 1 : 0;
  return count > 0 && count <= MOST_BAYS ? Array.from({ length: count }, (_, i) => String(Number(first) + i)) : [];
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
