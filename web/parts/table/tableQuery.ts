/** What is looked at of a long list: it stands in the address, so that it can be sent. */
export interface TableQuery {
  /** Only rows with these words in them. */
  readonly words: string;
  readonly sort: { readonly id: string; readonly desc: boolean } | null;
  /** Columns left out. */
  readonly without: readonly string[];
  readonly from: number;
}

type Asked = Readonly<Record<string, string | string[] | undefined>>;

const text = (value: string | string[] | undefined): string => (typeof value === 'string' ? value : '');

/** Reads it off the address; what is not a column is nothing. Where a page has several lists, each has a name before its words. */
export function tableQueryOf(query: Asked, columns: readonly string[], name = ''): TableQuery {
  const sort = /^(-?)(.+)$/.exec(text(query[`${name}sort`]));
  const from = Number(text(query[`${name}from`]));
  return {
    words: text(query[`${name}q`]).trim().slice(0, 100),
    sort: sort?.[2] !== undefined && columns.includes(sort[2]) ? { id: sort[2], desc: sort[1] === '-' } : null,
    without: text(query[`${name}without`])
      .split(' ')
      .filter((id) => columns.includes(id)),
    from: Number.isInteger(from) && from > 0 && from < 1e7 ? from : 0,
  };
}

/** The address of the same list, looked at otherwise; a change begins it anew from its first row. */
export function addressOf(
  path: string,
  kept: Readonly<Record<string, string>>,
  { words, sort, without, from }: TableQuery,
  change: Partial<TableQuery>,
  name = '',
): string {
  const next = { words, sort, without, from: 'from' in change ? from : 0, ...change };
  const query = new URLSearchParams(kept);
  if (next.words !== '') query.set(`${name}q`, next.words);
  if (next.sort) query.set(`${name}sort`, `${next.sort.desc ? '-' : ''}${next.sort.id}`);
  if (next.without.length > 0) query.set(`${name}without`, next.without.join(' '));
  if (next.from > 0) query.set(`${name}from`, String(next.from));
  const behind = query.toString();
  return behind === '' ? path : `${path}?${behind}`;
}
