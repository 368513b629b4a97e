import { serialKey } from '../drive/serial';

/** Characters that eyes take for one another on a small label (common practice), each by the one that stands for all. */
const SAME_TO_THE_EYE: Readonly<Record<string, string>> = {
  O: '0',
  Q: '0',
  D: '0',
  I: '1',
  L: '1',
  '|': '1',
  Z: '2',
  S: '5',
  G: '6',
  B: '8',
  V: 'U',
};

/** As many characters of the end of a serial are read off a label at arm's length. */
const LAST = 4;

/**
 * How two different serials can be taken for one another: `misread`, the same but for characters that look alike; `near`, one
 * or two characters apart; `ending`, with the same last four. `null` where nobody would.
 */
export type Likeness = 'misread' | 'near' | 'ending';

/**
 * How a serial that was read may be another that is known.
 *
 * @param a any serial, as it was typed
 * @param b another; the same one is not like itself
 */
export function likenessOf(a: string, b: string): Likeness | null {
  const [one, other] = [closed(a), closed(b)];
  if (one === other || one === '' || other === '') return null;
  if (asSeen(one) === asSeen(other)) return 'misread';
  if (editsBetween(one, other) <= allowed(Math.min(one.length, other.length))) return 'near';
  const ends = one.length > LAST && other.length > LAST && one.slice(-LAST) === other.slice(-LAST);
  return ends ? 'ending' : null;
}

/** Those of the serials that are the one that was read but for characters that look alike. */
export function misreadAmong(read: string, among: Iterable<string>): readonly string[] {
  return [...new Set([...among].map(serialKey))].filter((serial) => likenessOf(read, serial) === 'misread');
}

/**
 * Which of the serials that are known the one that was read may be, the likeliest first. Serials of one lot follow one
 * another: where two or more differ from it in their digits alone, it is one more of them, and none of these is meant.
 *
 * @param read what was read, and is none of those
 */
export function alikeAmong(read: string, among: Iterable<string>): readonly string[] {
  const all = [...new Set([...among].map(serialKey))].flatMap((serial) => {
    const likeness = likenessOf(read, serial);
    return likeness === null ? [] : [{ serial, likeness }];
  });
  const misread = all.filter(({ likeness }) => likeness === 'misread');
  if (misread.length > 0) return misread.map(({ serial }) => serial);
  const series = all.filter(({ serial }) => withoutDigits(serial) === withoutDigits(serialKey(read)));
  const meant = series.length < 2 ? all : all.filter((one) => !series.includes(one));
  const rank = { misread: 0, near: 1, ending: 2 } as const;
  return meant.sort((a, b) => rank[a.likeness] - rank[b.likeness]).map(({ serial }) => serial);
}

/**
 * Single characters to change, leave out, put in, or swap with their neighbour until one text is the other, with no place
 * touched twice: the optimal string alignment distance (Damerau, Communications of the ACM 7, 1964).
 */
export function editsBetween(a: string, b: string): number {
  const width = b.length + 1;
  const cost = new Array<number>((a.length + 1) * width).fill(0);
  const at = (i: number, j: number): number => cost[i * width + j] as number;
  for (let i = 0; i <= a.length; i++)
    for (let j = 0; j <= b.length; j++) {
      if (i === 0 || j === 0) {
        cost[i * width + j] = i + j;
        continue;
      }
      const isSame = a[i - 1] === b[j - 1];
      let least = Math.min(at(i - 1, j) + 1, at(i, j - 1) + 1, at(i - 1, j - 1) + (isSame ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        least = Math.min(least, at(i - 2, j - 2) + 1);
      cost[i * width + j] = least;
    }
  return at(a.length, b.length);
}

/** Of a short serial two characters are half of it. */
function allowed(length: number): number {
  return length >= 8 ? 2 : length >= 5 ? 1 : 0;
}

/** Blanks and hyphens within do not count: serials are shown in groups. */
function closed(serial: string): string {
  return serialKey(serial).replace(/[\s-]/g, '');
}

function asSeen(serial: string): string {
  return [...serial].map((one) => SAME_TO_THE_EYE[one] ?? one).join('');
}

function withoutDigits(serial: string): string {
  return serial.replace(/\d/g, '#');
}
