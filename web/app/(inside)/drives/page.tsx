import Link from '~/web/parts/frame/Link';
import {
  countFound,
  DRIVE_COLUMNS,
  readDrives,
  readOrders,
  type DriveColumn,
  type PlaceKind,
} from '~/service/drives/readDrives';
import { readOwnRates } from '~/service/drives/ownRates';
import { readPlaces } from '~/service/settings/readSettings';
import { mayAct } from '~/service/access/viewer';
import { ButtonLink } from '~/web/parts/form/Button';
import { ViewLinks } from '~/web/parts/frame/ViewLinks';
import { DrivesTable } from '~/web/parts/drives/DrivesTable';
import { WriteDownOrder } from '~/web/parts/drives/OrderButtons';
import { OrdersTable } from '~/web/parts/drives/OrdersTable';
import { OwnRates } from '~/web/parts/drives/OwnRates';
import { TakeIn } from '~/web/parts/drives/TakeIn';
import { tableQueryOf } from '~/web/parts/table/tableQuery';
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

export default insidePage('reader', async ({ app, viewer, query, now }) => {
  const { words, sort, from } = tableQueryOf(query, DRIVE_COLUMNS);
  const place = PLACES.find(([id]) => id === query['place'])?.[0];
  const isOrders = query['place'] === 'orders';
  const order = { words, by: (sort?.id ?? null) as DriveColumn | null, desc: sort?.desc === true };
  const [{ drives, counts }, found, orders, sites, rates] = await Promise.all([
    readDrives(app, place, from, PAGE, order),
    words === '' ? 0 : countFound(app, place, words),
    readOrders(app),
    readPlaces(app),
    place === undefined && !isOrders ? readOwnRates(app, now) : [],
  ]);
  const all = Object.values(counts).reduce((sum, n) => sum + n, 0);
  const total = place === undefined ? all : (counts[place] ?? 0);
  const open = orders.filter(({ closed, count, received }) => closed === null && received < count);
  const mayRecord = mayAct(viewer, 'keeper');
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 p-5">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-xl">Drives</h1>
        <span className="no-print flex flex-wrap items-center gap-3">
          <a href="/api/v1/drives.csv" download className="text-action underline">
            Take them away as CSV
          </a>
          {mayRecord && (
            <TakeIn
              places={sites}
              orders={open.map(({ id, supplier, count, received, drive }) => ({
                id,
                supplier,
                left: count - received,
                drive,
              }))}
            />
          )}
        </span>
      </div>
      <ViewLinks
        label="Where they are"
        links={[
          { href: '/drives', words: `All ${String(all)}`, isHere: place === undefined && !isOrders },
          ...PLACES.map(([id, words]) => ({
            href: `/drives?place=${id}`,
            words: `${words} ${String(counts[id] ?? 0)}`,
            isHere: place === id,
          })),
          {
            href: '/drives?place=orders',
            words: `On order ${String(open.reduce((sum, { count, received }) => sum + count - received, 0))}`,
            isHere: isOrders,
          },
        ]}
      />
      {(counts['in-hand'] ?? 0) > 0 && place !== 'in-hand' && (
        <p className="border-l-4 border-watch bg-watch-ground px-4 py-2">
          <Link href="/drives?place=in-hand" className="text-action underline">
            {counts['in-hand'] === 1 ? 'One drive is' : `${String(counts['in-hand'])} drives are`} in hand
          </Link>
          : say where {counts['in-hand'] === 1 ? 'it was' : 'they were'} put, so that{' '}
          {counts['in-hand'] === 1 ? 'it is' : 'they are'} found again.
        </p>
      )}
      {isOrders ? (
        <>
          <OrdersTable
            orders={orders}
            mayRecord={mayRecord}
            path="/drives"
            kept={{ place: 'orders' }}
            query={query}
            size={PAGE}
          />
          {mayRecord && (
            <div>
              <WriteDownOrder />
            </div>
          )}
        </>
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
        <DrivesTable
          drives={drives}
          query={query}
          kept={place === undefined ? {} : { place }}
          size={PAGE}
          total={words === '' ? total : found}
        />
      )}
      <OwnRates rates={rates} />
    </div>
  );
});
