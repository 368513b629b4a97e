import papaparse from 'papaparse';

/** A sheet cut into cells, whatever stands between them (RFC 4180); cells copied from a table come with tabs. Empty lines stay. */
export function rowsOf(text: string): string[][] {
  return papaparse.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    delimitersToGuess: [',', ';', '\t', '|'],
    skipEmptyLines: false,
  }).data;
}
