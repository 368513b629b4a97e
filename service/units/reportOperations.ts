import papaparse from 'papaparse';
import type { FromSchema } from 'json-schema-to-ts';
import { compareObservation } from '../../core/observe/compareObservation';
import { asPage, hasColumns, pageTable, type PageColumns } from '../../core/observe/pageTable';
import { readPage } from '../../core/observe/readPage';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { reportColumnsSchema, reportSchema } from '../../schemas/record';
import { reportColumns, saveReportColumns } from '../../store/reportColumns';
import type { StoredUnit } from '../../store/units';
import type { App } from '../app';
import { operation, operationTaking } from '../door/operation';
import { aboutUnit } from './findUnit';

/** Which columns of a unit's list are what, as it was said last; `null` where nobody has. */
export interface KeptColumns {
  readonly columns: PageColumns;
  readonly setBy: string;
  readonly setAt: string;
}

export async function readKeptColumns(app: App, { id, state }: StoredUnit): Promise<KeptColumns | null> {
  const kept = await reportColumns(app.db, id, state.profile.id);
  return kept ? { ...kept, columns: kept.columns as PageColumns } : null;
}

/** The text as a page: a list with columns that are known is read by them, anything else as it stands. */
function pageOf(text: string, asked: PageColumns | undefined, kept: PageColumns | undefined): string | Refusal {
  if (asked === undefined && kept === undefined) return text;
  const table = pageTable(
    papaparse.parse<string[]>(text.replace(/^\uFEFF/, ''), { delimitersToGuess: [',', ';', '\t', '|'] }).data,
  );
  if (asked)
    return table
      ? asPage(table, asked)
      : refusal('no-list', 'This is no list with a row of headings above it: leave the columns out.', '/columns');
  return table && kept && hasColumns(table, kept) ? asPage(table, kept) : text;
}

const reports = operationTaking<FromSchema<typeof reportSchema>>(reportSchema)({
  method: 'POST',
  path: '/units/{id}/reports',
  summary:
    "Hold what a unit's page reports, pasted or as CSV, against the record, by the columns that are kept for it; records nothing",
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(async ({ app, body }, unit) => {
    const kept = body.columns ? null : await readKeptColumns(app, unit);
    const page = pageOf(body.text, body.columns, kept?.columns);
    if (isRefusal(page)) return page;
    const report = readPage(page, unit.state);
    return { version: unit.version, report, contradictions: compareObservation(unit.state, report) };
  }),
});

const getColumns = operation({
  method: 'GET',
  path: '/units/{id}/report-columns',
  summary: 'Which columns of the list a unit writes out are what, as it was said of it or of another of its family',
  needs: 'reader',
  scope: 'read',
  run: aboutUnit(async ({ app }, unit) => ({ kept: await readKeptColumns(app, unit) })),
});

const putColumns = operationTaking<FromSchema<typeof reportColumnsSchema>>(reportColumnsSchema)({
  method: 'PUT',
  path: '/units/{id}/report-columns',
  summary: 'Keep which columns of the list a unit writes out are what',
  needs: 'keeper',
  scope: 'write',
  run: aboutUnit(async ({ app, body, viewer }, unit) => {
    await saveReportColumns(app.db, unit.id, {
      profile: unit.state.profile.id,
      columns: body,
      setBy: viewer.name,
    });
    return { kept: await readKeptColumns(app, unit) };
  }),
});

export const reportOperations = [reports, getColumns, putColumns];
