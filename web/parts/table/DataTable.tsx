import {
  columnFilteringFeature,
  columnVisibilityFeature,
  constructTable,
  createFilteredRowModel,
  createPaginatedRowModel,
  createSortedRowModel,
  globalFilteringFeature,
  rowPaginationFeature,
  rowSortingFeature,
  tableFeatures,
  type Row,
  type RowData,
} from '@tanstack/table-core';
import { storeReactivityBindings } from '@tanstack/table-core/store-reactivity-bindings';
import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import { Pages } from '~/web/parts/frame/Pages';
import { FilterBox } from './FilterBox';
import { addressOf, tableQueryOf } from './tableQuery';

/** A column of a list: what it sorts and is found by, and how it is drawn. */
export interface Column<R> {
  readonly id: string;
  readonly head: string;
  readonly value: (row: R) => string | number | null;
  readonly cell?: (row: R) => ReactNode;
  readonly isFigure?: boolean;
  /** On a card it needs no head before it. */
  readonly isWhole?: boolean;
  /** Holds what can be done with a row: not sorted by, its head only heard. */
  readonly isBare?: boolean;
  /** What is found by words, where it is not the value. */
  readonly words?: (row: R) => string;
}

/** Where a list stands, and what is asked of it there. */
export interface ListAddress {
  readonly path: string;
  /** What else stands in the address and stays there. */
  readonly kept?: Readonly<Record<string, string>>;
  readonly query: Readonly<Record<string, string | string[] | undefined>>;
  readonly size: number;
  /** Stands before its words in the address, where a page has several lists. */
  readonly name?: string;
}

interface Props<R extends RowData> extends ListAddress {
  readonly label: string;
  readonly columns: readonly Column<R>[];
  readonly rows: readonly R[];
  readonly keyOf: (row: R) => string;
  /** The rows are one page of so many, sorted and filtered where they were read. */
  readonly total?: number;
}

const FEATURES = tableFeatures({
  coreReactivityFeature: storeReactivityBindings(),
  columnFilteringFeature,
  columnVisibilityFeature,
  globalFilteringFeature,
  rowPaginationFeature,
  rowSortingFeature,
  filteredRowModel: createFilteredRowModel(),
  paginatedRowModel: createPaginatedRowModel(),
  sortedRowModel: createSortedRowModel(),
});

/** Smallest first, nothing last; text as people sort it. */
function compare(a: string | number | null, b: string | number | null): number {
  if (a === null || b === null) return a === b ? 0 : a === null ? 1 : -1;
  return typeof a === 'number' && typeof b === 'number'
    ? a - b
    : String(a).localeCompare(String(b), 'en', { numeric: true });
}

/**
 * A long list: sorted by any column, found by words, columns left out, a page at a time; all of it in the address. Made by
 * the server, so that it works before any code does; on a phone each row is a card.
 */
export function DataTable<R extends RowData>({
  label,
  path,
  kept = {},
  query,
  columns,
  rows,
  keyOf,
  size,
  name,
  total,
}: Props<R>): ReactNode {
  const ids = columns.filter(({ isBare }) => isBare !== true).map(({ id }) => id);
  const asked = tableQueryOf(query, ids, name);
  const { words, sort, without, from } = asked;
  const isRead = total !== undefined;
  const wanted = words.toLowerCase();
  const table = constructTable<typeof FEATURES, R>({
    features: FEATURES,
    columns: columns.map(({ id, value }) => ({
      id,
      accessorFn: value,
      sortFn: (a: Row<typeof FEATURES, R>, b: Row<typeof FEATURES, R>) => compare(value(a.original), value(b.original)),
    })),
    data: rows as R[],
    getRowId: keyOf,
    manualSorting: isRead,
    manualFiltering: isRead,
    manualPagination: isRead,
    globalFilterFn: ({ original }: Row<typeof FEATURES, R>) =>
      columns.some(({ value, words: said }) =>
        (said ? said(original) : String(value(original) ?? '')).toLowerCase().includes(wanted),
      ),
    getColumnCanGlobalFilter: () => true,
    state: {
      sorting: sort ? [sort] : [],
      globalFilter: wanted,
      columnVisibility: Object.fromEntries(without.map((id) => [id, false])),
      pagination: { pageIndex: Math.floor(from / size), pageSize: size },
    },
  });
  const shown = table.getRowModel().rows;
  const found = isRead ? total : table.getFilteredRowModel().rows.length;
  const standing = columns.filter(({ id }) => !without.includes(id));
  const to = (change: Parameters<typeof addressOf>[3]): string => addressOf(path, kept, asked, change, name);
  const all = isRead ? total : rows.length;

  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3">
      {(all > 5 || words !== '') && (
        <div className="no-print flex flex-wrap items-center gap-x-5 gap-y-2">
          <FilterBox
            key={path}
            label={`Find in ${label.toLowerCase()}`}
            words={words}
            address={to({ words: '{words}' })}
            bare={to({ words: '' })}
          />
          <details className="relative">
            <summary className="min-h-9 cursor-pointer py-1.5 text-action max-sm:min-h-11">Columns and order</summary>
            <div className="absolute z-10 mt-1 grid w-64 gap-1 border border-line bg-surface p-3">
              {columns
                .filter(({ id }, i) => i > 0 && ids.includes(id))
                .map(({ id, head }) => {
                  const isOut = without.includes(id);
                  return (
                    <Link
                      key={id}
                      scroll={false}
                      href={to({ without: isOut ? without.filter((one) => one !== id) : [...without, id], from })}
                      className="py-1 text-action"
                    >
                      {`${isOut ? 'Show' : 'Leave out'} ${head.toLowerCase()}`}
                    </Link>
                  );
                })}
              <span className="mt-1 border-t border-line pt-1 sm:hidden">
                {standing
                  .filter(({ isBare }) => isBare !== true)
                  .map(({ id, head }) => (
                    <Link
                      key={id}
                      scroll={false}
                      href={to({ sort: { id, desc: sort?.id === id && !sort.desc } })}
                      className="block py-1 text-action"
                    >
                      {`Sort by ${head.toLowerCase()}`}
                    </Link>
                  ))}
              </span>
            </div>
          </details>
          {words !== '' && (
            <span role="status" className="text-muted">
              {found} of them
            </span>
          )}
        </div>
      )}
      {shown.length === 0 ? (
        <p className="text-muted">{words === '' ? 'Nothing is there.' : `Nothing here has “${words}” in it.`}</p>
      ) : (
        <>
          <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label={label}>
            {/* On a phone a row is drawn as a card; the roles keep it a table for those who hear it. */}
            <table role="table" className="list">
              <thead role="rowgroup">
                <tr role="row">
                  {standing.map(({ id, head, isFigure = false, isBare = false }) => {
                    const here = sort?.id === id ? sort : null;
                    return (
                      <th
                        key={id}
                        scope="col"
                        role="columnheader"
                        aria-sort={here ? (here.desc ? 'descending' : 'ascending') : undefined}
                        data-as={isFigure ? 'figure' : undefined}
                      >
                        {isBare ? (
                          <span className="sr-only">{head}</span>
                        ) : (
                          <Link
                            scroll={false}
                            href={to({ sort: here?.desc === true ? null : { id, desc: here !== null } })}
                            className={here ? 'font-semibold text-ink' : ''}
                          >
                            {head}
                            {here && <span aria-hidden>{here.desc ? ' ↓' : ' ↑'}</span>}
                          </Link>
                        )}
                      </th>
                    );
                  })}
                </tr>
              </thead>
              <tbody role="rowgroup">
                {shown.map(({ id, original: row }) => (
                  <tr key={id} role="row" className="group">
                    {standing.map(({ id: at, head, isFigure, isBare, isWhole, cell, value }) => (
                      <td
                        key={at}
                        role="cell"
                        {...(isBare === true ? { 'data-as': 'foot' } : isWhole === true ? {} : { 'data-head': head })}
                        {...(isFigure === true ? { className: 'figures' } : {})}
                      >
                        {cell ? cell(row) : value(row)}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
      <Pages address={(skip) => to({ from: skip })} from={from} size={size} total={found} />
    </div>
  );
}
