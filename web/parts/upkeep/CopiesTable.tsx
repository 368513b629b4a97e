import Link from 'next/link';
import type { ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { Copy } from '~/core/unit/state';
import { Moment } from '~/web/parts/unit/Moment';

/** A data set and one of its copies; what is wrong with it stands at its first. */
export interface CopyRow {
  readonly unit: string;
  readonly unitName: string;
  readonly name: string;
  readonly copy: Copy | null;
  readonly troubles: readonly { readonly reason: string }[];
}

/** Every data set and where it is kept once more. */
export function CopiesTable({ rows }: { readonly rows: readonly CopyRow[] }): ReactNode {
  return (
    <table className="w-full border border-line bg-surface">
      <thead className="text-left text-sm text-muted">
        <tr>
          {['Data set', 'Unit', 'Copy', 'Keeps', 'Last ran', 'Restore tried', 'Free there'].map((head) => (
            <th key={head} scope="col" className="px-3 py-1.5 font-normal">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ unit, unitName, name, copy, troubles }) => (
          <tr key={`${unit} ${name} ${copy?.id ?? ''}`} className="border-t border-line align-top">
            <td className="px-3 py-1.5">
              <strong>{name}</strong>
              {troubles.map(({ reason }) => (
                <span key={reason} className="block text-watch">
                  {reason}
                </span>
              ))}
            </td>
            <td className="px-3 py-1.5">
              <Link href={`/units/${unit}?view=copies`} className="underline decoration-line">
                {unitName}
              </Link>
            </td>
            <td className="px-3 py-1.5">{copy ? `${copy.where}, ${copy.offSite ? 'off site' : 'on site'}` : 'none'}</td>
            <td className="px-3 py-1.5">{copy?.keeps}</td>
            <td className="px-3 py-1.5 whitespace-nowrap">{copy && (copy.ranAt === undefined ? 'never seen' : <Moment at={copy.ranAt} relative />)}</td>
            <td className="px-3 py-1.5 whitespace-nowrap">
              {copy && (copy.restoreTriedAt === undefined ? 'never' : <Moment at={copy.restoreTriedAt} relative />)}
              {copy?.restoreWorked === false && ', failed'}
            </td>
            <td className="figures px-3 py-1.5">{copy?.freeBytes === undefined ? '' : formatBytes(copy.freeBytes, 'binary')}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
