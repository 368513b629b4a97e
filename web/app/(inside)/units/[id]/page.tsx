import { notFound } from 'next/navigation';
import { standingOfUnit } from '~/core/unit/margin';
import { baysOf } from '~/core/unit/state';
import { factsOf } from '~/core/layout/scheme';
import { wholePercent } from '~/core/quantity/formatPercent';
import { formatBytes } from '~/core/quantity/formatBytes';
import { readOrganisation } from '~/service/readSettings';
import { readUnit } from '~/service/readUnit';
import { mapOfPool } from '~/web/parts/map/ofLayout';
import { PoolMap } from '~/web/parts/map/PoolMap';
import { eventWords } from '~/web/parts/unit/eventWords';
import { FillBar } from '~/web/parts/unit/FillBar';
import { Moment } from '~/web/parts/unit/Moment';
import { StandingMark } from '~/web/parts/unit/StandingMark';
import { UnitBays } from '~/web/parts/unit/UnitBays';
import { poolWords, standingWords } from '~/web/parts/unit/words';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Unit' };

/** Entries of the ledger shown at first; the rest is behind "all". */
const MOST_ENTRIES = 40;

export default insidePage('reader', async ({ app, params, query }) => {
  const unit = await readUnit(app, params['id'] ?? '');
  if (!unit) notFound();
  const { currency } = await readOrganisation(app);
  const { id, state, fill, ledger } = unit;
  const standing = standingOfUnit(state);
  const bay = typeof query['bay'] === 'string' && baysOf(state).includes(query['bay']) ? query['bay'] : undefined;
  const entries = query['ledger'] === 'all' ? ledger : ledger.slice(0, MOST_ENTRIES);
  return (
    <div className="flex min-h-full max-lg:flex-col lg:h-full">
      <div className="grid min-w-0 flex-1 auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-5 overflow-y-auto p-5">
        <div className="flex flex-wrap items-baseline justify-between gap-x-6">
          <h1 className="text-xl">
            {state.name}
            <span className="ml-3 text-base font-normal text-muted">
              {state.place.site}, {state.place.room} · {state.profile.name}
            </span>
          </h1>
          <StandingMark standing={standing}>{standingWords(state, standing)}</StandingMark>
        </div>
        <UnitBays key={bay} unit={state} initial={bay} currency={currency} />
        <section aria-label="Ledger">
          <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-4">
            <h2 className="text-lg">What happened</h2>
            <span className="no-print flex gap-4">
              <a href={`/bench?unit=${id}&profile=${state.profile.id}&bays=${String(baysOf(state).length)}`} className="text-action underline">
                Take its drives to the bench
              </a>
              <a href={`/api/v1/units/${id}/drives.csv`} download className="text-action underline">
                Take the drives away as CSV
              </a>
            </span>
          </div>
          <table className="w-full border border-line bg-surface">
            <thead className="sr-only">
              <tr>
                <th scope="col">When</th>
                <th scope="col">What</th>
                <th scope="col">Recorded by</th>
              </tr>
            </thead>
            <tbody>
              {entries.map(({ seq, happenedAt, event, recordedBy }) => (
                <tr key={seq} className="border-t border-line first:border-0">
                  <td className="px-3 py-1 align-top whitespace-nowrap text-muted">
                    <Moment at={happenedAt} />
                  </td>
                  <td className="px-3 py-1">{eventWords(event)}</td>
                  <td className="px-3 py-1 align-top whitespace-nowrap text-muted max-sm:hidden">{recordedBy}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {entries.length < ledger.length && (
            <a href="?ledger=all" className="mt-2 inline-block text-action underline">
              Show all {ledger.length} entries
            </a>
          )}
        </section>
      </div>
      <aside aria-label="Pools" className="shrink-0 border-line bg-surface p-5 max-lg:border-t lg:w-[424px] lg:overflow-y-auto lg:border-l">
        {Object.values(state.pools).length === 0 && <p className="text-muted">No pool has been made here yet.</p>}
        {Object.values(state.pools).map((pool) => {
          const used = fill.find((reading) => reading.pool === pool.id);
          return (
            <section key={pool.id} aria-label={pool.name} className="mb-6">
              <h2 className="text-lg">{pool.name}</h2>
              <p className="text-muted">
                {factsOf(pool.scheme).name}
                {pool.groupWidth !== undefined && `, ${String(pool.groupWidth)} wide`} · {poolWords(pool)}
              </p>
              <p className="mt-2">
                {formatBytes(pool.usableBytes, 'decimal', 2)} usable; the unit’s page shows{' '}
                {formatBytes(pool.shownBytes, state.profile.unitPage.counts === 'TiB' ? 'binary' : 'decimal', 2)}
                {state.profile.unitPage.counts !== state.profile.unitPage.prints && ` and prints “${state.profile.unitPage.prints}” behind it`}.
              </p>
              {used && (
                <div className="my-2">
                  <p className="mb-1 text-sm text-muted">
                    {wholePercent(used.value / pool.shownBytes)} % used, {formatBytes(used.value, 'binary', 2)}, read <Moment at={used.at} relative />
                  </p>
                  <FillBar share={used.value / pool.shownBytes} />
                </div>
              )}
              <div className="mt-3">
                <PoolMap input={mapOfPool(state, pool)} label={`Pool map of ${pool.name}`} />
              </div>
            </section>
          );
        })}
        <p className="border-t border-line pt-3 text-sm text-muted">
          <strong className="text-ink">Take care.</strong> Earth yourself before touching a bare drive
          {state.profile.service.opensCase && ', and power down and unplug every supply before opening the case'}. The maker’s manual and your site’s rules come
          before this page.
        </p>
      </aside>
    </div>
  );
});
