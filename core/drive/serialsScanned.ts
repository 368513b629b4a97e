import { printedSerial, readKey } from './serial';
import { isRefusal } from '../value/refusal';

/** What stands before a serial in a code: "S/N: ", "SN", "Serial No. ". */
const NAMED = /^(?:s\/?n|ser(?:ial)?(?: ?(?:no|number|nr)\.?)?|\(21\))\s*[:=#]?\s*/i;

/**
 * The serials that may be meant by the codes of a drive's label: a label carries several, of its model, its world wide
 * name, its serial. What names itself a serial comes first and alone; a code of our own label is the address of the drive's
 * page. Words and blanks between fields are left out.
 *
 * @param texts what each code holds
 * @returns each once, as printed, the likeliest first
 */
export function serialsScanned(texts: readonly string[]): string[] {
  const fields = texts.flatMap((text) => {
    const ours = /\/drives\/([^/?#\s]+)/.exec(text)?.[1];
    if (ours !== undefined) return [{ text: decoded(ours), isNamed: true }];
    return text
      .split(/[\r\n;,|\u001d\u001e]+/)
      .map((field) => ({ text: field.trim().replace(NAMED, ''), isNamed: NAMED.test(field.trim()) }));
  });
  const named = fields.filter(({ isNamed }) => isNamed);
  const possible = (named.length > 0 ? named : fields)
    .map(({ text }) => printedSerial(text))
    .filter((text) => /\d/.test(text) && !/\s/.test(text) && !isRefusal(readKey(text)));
  return [...new Set(possible)];
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
