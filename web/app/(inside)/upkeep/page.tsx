import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import type { App } from '~/service/app';
import { readCopies, readCoverage, readFeed, readUpkeep } from '~/service/upkeep/upkeepOperations';
import type { Viewer } from '~/service/access/viewer';
import { ButtonLink } from '~/web/parts/form/Button';
import { ViewLinks } from '~/web/parts/frame/ViewLinks';
import { CalendarFeed } from '~/web/parts/upkeep/CalendarFeed';
import { CopiesTable, type CopyRow } from '~/web/parts/upkeep/CopiesTable';
import { ScheduleTable } from '~/web/parts/upkeep/ScheduleTable';
import { SparesTable } from '~/web/parts/upkeep/SparesTable';
import type { ListAddress } from '~/web/parts/table/DataTable';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Upkeep' };

const PAGE = 60;

interface Asked {
  readonly app: App;
  readonly viewer: Viewer;
  readonly now: Date;
  readonly query: ListAddress['query'];
  readonly unit: string | undefined;
}

const VIEWS: Readonly<Record<string, (asked: Asked) => Promise<ReactNode>>> = { schedule, copies, spares };

export default insidePage('reader', async ({ app, viewer, query, now }) => {
  const view = typeof query['view'] === 'string' && Object.hasOwn(VIEWS, query['view']) ? query['view'] : 'schedule';
  const unit = typeof query['unit'] === 'string' && /^[0-9a-f-]{36}$/.test(query['unit']) ? query['unit'] : undefined;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 p-5">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h1 className="text-xl">Upkeep</h1>
        <ButtonLink href="/round">Walk the evening round</ButtonLink>
      </div>
      <ViewLinks
        label="Upkeep"
        links={[
          { href: '/upkeep', words: 'Schedule', isHere: view === 'schedule' },
          { href: '/upkeep?view=copies', words: 'Copies', isHere: view === 'copies' },
          { href: '/upkeep?view=spares', words: 'Spares', isHere: view === 'spares' },
        ]}
      />
      {await VIEWS[view]?.({ app, viewer, now, query, unit })}
    </div>
  );
});

async function schedule({ app, viewer, now, query }: Asked): Promise<ReactNode> {
  const [units, feed] = await Promise.all([readUpkeep(app), readFeed(app, viewer.id)]);
  const due = units
    .flatMap(({ unit, unitName, tasks }) => tasks.map((task) => ({ ...task, unitId: unit, unitName })))
    .filter((task) => task.due !== null)
    .sort((a, b) =>
      (a.due ?? '') < (b.due ?? '') ? -1 : (a.due ?? '') > (b.due ?? '') ? 1 : a.unitName < b.unitName ? -1 : 1,
    );
  return (
    <>
      <CalendarFeed madeAt={feed?.madeAt ?? null} />
      {due.length === 0 ? (
        <p className="text-muted">
          No upkeep is planned. It is planned with every unit that is put on the shelf, and changed at the unit.
        </p>
      ) : (
        <ScheduleTable tasks={due} today={now.toISOString().slice(0, 10)} path="/upkeep" query={query} size={PAGE} />
      )}
    </>
  );
}

async function copies({ app, now, query }: Asked): Promise<ReactNode> {
  const rows = (await readCopies(app, now)).flatMap(({ unit, unitName, dataSets, uncovered }): CopyRow[] => [
    ...dataSets.flatMap(({ name, copies: of, troubles }): CopyRow[] => {
      const kept = Object.values(of);
      if (kept.length === 0) return [{ unit, unitName, name, copy: null, troubles }];
      return kept.map((copy, i) => ({ unit, unitName, name, copy, troubles: i === 0 ? troubles : [] }));
    }),
    ...uncovered.map((name): CopyRow => ({
      unit,
      unitName,
      name,
      copy: null,
      troubles: [{ reason: 'Nobody has written down where its copies are.' }],
    })),
  ]);
  return (
    <>
      <p className="max-w-[720px] text-muted">
        Every data set and where it is kept once more. A mirror repeats deletions: it is no backup. A copy is proven
        when a restore from it was tried and worked.
      </p>
      <CopiesTable rows={rows} path="/upkeep" kept={{ view: 'copies' }} query={query} size={PAGE} />
    </>
  );
}

async function spares({ app, query, unit: only }: Asked): Promise<ReactNode> {
  const rows = (await readCoverage(app, only)).flatMap(({ unitName, bays }) =>
    bays.map((bay) => ({ ...bay, unitName })),
  );
  const reach = ({ spares: fit }: (typeof rows)[number]): number =>
    fit.length === 0 ? 0 : fit[0]?.reach === 'other-site' ? 1 : 2;
  const bare = rows.filter((row) => reach(row) === 0).length;
  const far = rows.filter((row) => reach(row) === 1).length;
  // What nothing covers comes first.
  const ordered = [...rows].sort((a, b) => reach(a) - reach(b));
  return (
    <>
      <p className="max-w-[720px] text-muted">
        For every member, which spare really fits, byte for byte and kind for kind, and how far away it is. {bare}{' '}
        {bare === 1 ? 'bay has' : 'bays have'} nothing that fits; for {far} it lies at another site.{' '}
        {only !== undefined && (
          <Link href="/upkeep?view=spares" className="text-action underline">
            All units
          </Link>
        )}
      </p>
      <SparesTable
        rows={ordered}
        path="/upkeep"
        kept={{ view: 'spares', ...(only === undefined ? {} : { unit: only }) }}
        query={query}
        size={PAGE}
      />
    </>
  );
}
