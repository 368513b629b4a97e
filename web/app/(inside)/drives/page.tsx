import Link from 'next/link';
import { formatBytes } from '~/core/quantity/formatBytes';
import { readDrives } from '~/service/readDrives';
import { ButtonLink } from '~/web/parts/form/Button';
import { Moment } from '~/web/parts/unit/Moment';
import { Serial } from '~/web/parts/unit/Serial';
import { CONDITION_WORDS } from '~/web/parts/unit/words';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Drives' };

const PAGE = 100;

export default insidePage('reader', async ({ app, query }) => {
  const from = Math.max(0, Math.floor(Number(query['from'] ?? 0)) || 0);
  const { drives, total } = await readDrives(app, from, PAGE);
  return (
    <div className="p-5">
      <h1 className="text-xl">Drives</h1>
      <p className="mb-3 text-muted">
        {total === 0 ? 'No drive stands in a bay yet.' : `${String(total)} ${total === 1 ? 'drive stands' : 'drives stand'} in bays, by serial.`}
      </p>
      {total === 0 ? (
        <ButtonLink look="main" href="/bench">
          Start on the layout bench
        </ButtonLink>
      ) : (
        <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label="Drives by serial">
          <table className="w-full border border-line bg-surface">
            <thead className="text-left text-sm text-muted">
              <tr>
                {['Serial', 'Unit', 'Bay', 'Size', 'Model', 'Condition', 'Role', 'In since'].map((head) => (
                  <th key={head} scope="col" className={`px-3 py-1.5 font-normal ${head === 'Size' ? 'text-right' : ''}`}>
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {drives.map((drive) => (
                <tr key={drive.serial} className="border-t border-line">
                  <td className="px-3 py-1.5">
                    <Link href={`/units/${drive.unit}?bay=${encodeURIComponent(drive.bay)}`}>
                      <Serial of={drive.serial} />
                    </Link>
                  </td>
                  <td className="px-3 py-1.5">{drive.unitName}</td>
                  <td className="px-3 py-1.5">{drive.bay}</td>
                  <td className="figures px-3 py-1.5">{formatBytes(drive.bytes)}</td>
                  <td className="px-3 py-1.5">{drive.model}</td>
                  <td className={`px-3 py-1.5 ${drive.condition === 'well' ? '' : 'font-semibold text-thinned'}`}>{CONDITION_WORDS[drive.condition]}</td>
                  <td className="px-3 py-1.5">{drive.role}</td>
                  <td className="px-3 py-1.5 whitespace-nowrap">
                    <Moment at={drive.insertedAt} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <nav aria-label="Pages" className="mt-3 flex gap-2">
        {from > 0 && <ButtonLink href={`/drives?from=${String(Math.max(0, from - PAGE))}`}>Before</ButtonLink>}
        {from + PAGE < total && <ButtonLink href={`/drives?from=${String(from + PAGE)}`}>After</ButtonLink>}
      </nav>
    </div>
  );
});
