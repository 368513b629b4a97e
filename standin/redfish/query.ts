import type { Body } from './resources';

/** How deep `$expand` may go here. */
export const MOST_LEVELS = 3;

export interface Query {
  readonly expand?: { readonly which: 'all' | 'subordinate' | 'links'; readonly levels: number };
  readonly select?: readonly string[];
  readonly top?: number;
  readonly skip: number;
  readonly only: boolean;
}

/** What is asked for behind the address (DSP0266, "Query parameters"); names what is not understood. */
export function readQuery(
  query: URLSearchParams,
): Query | { readonly unsupported: string } | { readonly wrong: string; readonly value: string } {
  let read: Query = { skip: 0, only: false };
  for (const [name, value] of query) {
    const count = /^\d{1,9}$/.test(value) ? Number(value) : undefined;
    if (name === '$expand') {
      const [, sign, levels = '1'] = /^([.*~])(?:\(\$levels=(\d{1,2})\))?$/.exec(value) ?? [];
      if (sign === undefined || Number(levels) < 1) return { wrong: name, value };
      const which = sign === '*' ? 'all' : sign === '.' ? 'subordinate' : 'links';
      read = { ...read, expand: { which, levels: Math.min(MOST_LEVELS, Number(levels)) } };
    } else if (name === '$select') read = { ...read, select: value.split(',').map((one) => one.trim()) };
    else if (name === '$top' || name === '$skip') {
      if (count === undefined) return { wrong: name, value };
      read = { ...read, [name.slice(1)]: count };
    } else if (name === 'only') read = { ...read, only: true };
    // Those with a dollar are the standard's: one that is not known may not be passed over.
    else if (name.startsWith('$')) return { unsupported: name };
  }
  return read;
}

/** A part of a collection, with the address of what follows. */
export function paged(body: Body, { top, skip }: Query, most: number): Body {
  const members = body['Members'];
  if (!Array.isArray(members)) return body;
  const size = Math.min(top ?? most, most);
  const end = skip + size;
  const next =
    end < members.length && (top === undefined || top > size)
      ? {
          'Members@odata.nextLink': `${String(body['@odata.id'])}?$skip=${String(end)}${top === undefined ? '' : `&$top=${String(top - size)}`}`,
        }
      : {};
  return { ...body, Members: members.slice(skip, end), ...next };
}

/** The body with what it links to written out in it, so many levels deep. */
export function expanded(
  body: Body,
  { which, levels }: NonNullable<Query['expand']>,
  at: (path: string) => Body | undefined,
): Body {
  const own = String(body['@odata.id']);
  const walk = (value: unknown, isInLinks: boolean, isTop: boolean): unknown => {
    if (Array.isArray(value)) return value.map((one) => walk(one, isInLinks, false));
    if (typeof value !== 'object' || value === null) return value;
    const of = value as Body;
    const id = of['@odata.id'];
    if (!isTop && typeof id === 'string' && Object.keys(of).length === 1) {
      const wanted = which === 'all' || (which === 'links') === isInLinks;
      const found = wanted && id !== own ? at(id) : undefined;
      if (!found) return of;
      return levels > 1 ? expanded(found, { which, levels: levels - 1 }, at) : found;
    }
    return Object.fromEntries(
      Object.entries(of).map(([name, part]) => [name, walk(part, isInLinks || name === 'Links', false)]),
    );
  };
  return walk(body, false, true) as Body;
}

/** Only these properties, and those the standard wants in any case. */
export function selected(body: Body, select: readonly string[]): Body {
  const tops = new Set(select.map((name) => name.split('/')[0]));
  return Object.fromEntries(
    Object.entries(body).filter(([name]) => tops.has(name) || /^@odata\.(id|type|etag|context)$/.test(name)),
  );
}
