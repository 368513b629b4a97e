'use client';
import { usePathname, useSearchParams } from 'next/navigation';
import type { RowData } from '@tanstack/table-core';
import type { ReactNode } from 'react';
import { DataTable, type Column } from './DataTable';

interface Props<R> {
  /** Stands before its words in the address, so that a page can have several lists. */
  readonly name: string;
  readonly label: string;
  readonly columns: readonly Column<R>[];
  readonly rows: readonly R[];
  readonly keyOf: (row: R) => string;
}

const PAGE = 25;

/** A long list whose rows the browser has: what a file holds, what stands beside buttons of its own. */
export function ListHere<R extends RowData>({ name, ...list }: Props<R>): ReactNode {
  const path = usePathname();
  const query = Object.fromEntries(useSearchParams());
  const kept = Object.fromEntries(Object.entries(query).filter(([key]) => !key.startsWith(name)));
  return <DataTable {...list} {...{ path, name, query, kept }} size={PAGE} />;
}
