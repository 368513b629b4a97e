/** What the columns of a sheet are: a CSV file itself does not say that 06110 is a text and no number. */

/** Columns that are numbers, or moments; all others are text. */
export type ColumnTypes = Readonly<Record<string, 'integer' | 'decimal' | 'number' | 'dateTime'>>;

/**
 * The metadata of a sheet (Metadata Vocabulary for Tabular Data, W3C 2015), found where that standard looks for it first: beside
 * the sheet, under its name and `-metadata.json`.
 *
 * @param url the sheet, as seen from the metadata
 */
export function sheetMetadata(url: string, head: readonly string[], types: ColumnTypes): object {
  return {
    '@context': 'http://www.w3.org/ns/csvw',
    url,
    dialect: { header: true, lineTerminators: ['\r\n'] },
    tableSchema: {
      columns: head.map((title) => ({
        name: title.replaceAll(' ', '_'),
        titles: title,
        datatype: types[title] ?? 'string',
      })),
    },
  };
}
