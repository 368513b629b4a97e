import Link from 'next/link';
import type { PlaceKind } from '~/service/drives/readDrives';
import type { DriveCondition } from '~/core/unit/state';
import { whereWords } from '~/core/driveLife/driveEventWords';
import { formatBytes } from '~/core/quantity/formatBytes';
import { CONDITION_WORDS } from '~/core/unit/standingWords';
import { readDrives, readOrders } from '~/service/drives/readDrives';
import { readPlaces } from '~/service/settings/readSettings';
import { mayAct } from '~/service/access/viewer';
import { ButtonLink } from '~/web/parts/form/Button';
import { Pages } from '~/web/parts/frame/Pages';
import { ViewLinks } from '~/web/parts/frame/ViewLinks';
import { Orders } from '~/web/parts/drives/Orders';
import { TakeIn } from '~/web/parts/drives/TakeIn';
import { Moment } from '~/web/parts/unit/Moment';
import { Serial } from '~/web/parts/unit/Serial';
import { pageFrom } from '~/service/door/pageFrom';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Drives' };

const PAGE = 100;

const PLACES: readonly (readonly [PlaceKind, string])[] = [
  ['bay', 'In bays'],
  ['drawer', 'In drawers'],
  ['in-hand', 'In hand'],
  ['under-warranty', 'Under warranty'],
  ['gone', 'Gone'],
];

export default insidePage('reader', async ({ app, viewer, query }) => {
  const from = pageFrom(query['from']);
  const place = PLACES.find(([id]) => id === query['place'])?.[0];
  const isOrders = query['place'] === 'orders';
  const [{ drives, counts }, orders, sites] = await Promise.all([readDrives(app, place, from, PAGE), readOrders(app), readPlaces(app)]);
  const all = Object.values(counts).reduce((sum, n) => sum + n, 0);
  const total = place === undefined ? all : (counts[place] ?? 0);
  const open = orders.filter(({ closed, count, received }) => closed === null && received < count);
  const mayRecord = mayAct(viewer, 'keeper');
  const address = (skip: number): string => `/drives?${new URLSearchParams({ ...(place === undefined ? {} : { place }), from: String(skip) }).toString()}`;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 p-5">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-xl">Drives</h1>
        <span className="no-print flex flex-wrap items-center gap-3">
          <a href="/api/v1/drives.csv" download className="text-action underline">
            Take them away as CSV
          </a>
          {mayRecord && (
            <TakeIn places={sites} orders={open.map(({ id, supplier, count, received, drive }) => ({ id, supplier, left: count - received, drive }))} />
          )}
        </span>
      </div>
      <ViewLinks
        label="Where they are"
        links={[
          { href: '/drives', words: `All ${String(all)}`, isHere: place === undefined && !isOrders },
          ...PLACES.map(([id, words]) => ({ href: `/drives?place=${id}`, words: `${words} ${String(counts[id] ?? 0)}`, isHere: place === id })),
          { href: '/drives?place=orders', words: `On order ${String(open.reduce((sum, { count, received }) => sum + count - received, 0))}`, isHere: isOrders },
        ]}
      />
      {(counts['in-hand'] ?? 0) > 0 && place !== 'in-hand' && (
        <p className="border-l-4 border-watch bg-watch-ground px-4 py-2">
          <Link href="/drives?place=in-hand" className="text-action underline">
            {counts['in-hand'] === 1 ? 'One drive is' : `${String(counts['in-hand'])} drives are`} in hand
          </Link>
          : say where {counts['in-hand'] === 1 ? 'it was' : 'they were'} put, so that {counts['in-hand'] === 1 ? 'it is' : 'they are'} found again.
        </p>
      )}
      {isOrders ? (
        <Orders orders={orders} mayRecord={mayRecord} />
      ) : total === 0 ? (
        <div className="max-w-[520px]">
          <p className="mb-3 text-muted">
            {place === undefined
              ? 'No drive is known here yet. Take in the spares that lie in a drawer, or put a unit with its drives on the shelf.'
              : 'No drive is there.'}
          </p>
          {place === undefined && (
            <ButtonLink look="main" href="/bench">
              Start on the layout bench
            </ButtonLink>
          )}
        </div>
      ) : (
        <>
          <ul className="grid gap-2 sm:hidden" aria-label="Drives">
            {drives.map(({ life, condition, role }) => (
              <li key={life.serial}>
                <Link href={`/drives/${encodeURIComponent(life.serial)}`} className="block border border-line bg-surface px-4 py-3">
                  <span className="flex items-baseline justify-between gap-3">
                    <Serial of={life.serial} large />
                    <span className="whitespace-nowrap">{formatBytes(life.drive.bytes)}</span>
                  </span>
                  <span className="mt-1 block">{whereWords(life.where)}</span>
                  <span className="block text-muted">
                    {role}
                    {condition !== null && condition !== 'well' && <strong className="text-thinned"> · {CONDITION_WORDS[condition as DriveCondition]}</strong>}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
          <div className="relative overflow-x-auto max-sm:hidden" tabIndex={0} role="region" aria-label="Drives by serial">
            <table className="w-full border border-line bg-surface">
              <thead className="text-left text-sm text-muted">
                <tr>
                  {['Serial', 'Where', 'Size', 'Model', 'Condition', 'Role', 'Since', 'Warranty until'].map((head) => (
                    <th key={head} scope="col" className={`px-3 py-1.5 font-normal ${head === 'Size' ? 'text-right' : ''}`}>
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {drives.map(({ life, condition, role }) => (
                  <tr key={life.serial} className="border-t border-line">
                    <td className="px-3 py-1.5">
                      <Link href={`/drives/${encodeURIComponent(life.serial)}`}>
                        <Serial of={life.serial} />
                      </Link>
                    </td>
                    <td className="px-3 py-1.5">{whereWords(life.where)}</td>
                    <td className="figures px-3 py-1.5">{formatBytes(life.drive.bytes)}</td>
                    <td className="px-3 py-1.5">{life.drive.model}</td>
                    <td className={`px-3 py-1.5 ${condition === null || condition === 'well' ? '' : 'font-semibold text-thinned'}`}>
                      {condition !== null ? CONDITION_WORDS[condition as DriveCondition] : life.wiped ? `wiped (${life.wiped.method})` : life.tested?.result}
                    </td>
                    <td className="px-3 py-1.5">{role}</td>
                    <td className="px-3 py-1.5 whitespace-nowrap">
                      <Moment at={life.whereSince} />
                    </td>
                    <td className="px-3 py-1.5 whitespace-nowrap">{life.drive.warrantyUntil}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
      {!isOrders && <Pages address={address} from={from} size={PAGE} total={total} />}
    </div>
  );
});
