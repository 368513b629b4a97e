import Link from '~/web/parts/frame/Link';
import { notFound } from 'next/navigation';
import { standingOfUnit } from '~/core/unit/margin';
import { standingWords } from '~/core/unit/standingWords';
import { plansThatFit } from '~/core/plan/makers/plansThatFit';
import { poolsOf, placesOf, type UnitState } from '~/core/unit/state';
import type { PlanJob } from '~/schemas/plan';
import { serviceOf } from '~/core/unit/serviceOf';
import { nextStep } from '~/core/planRun/progress';
import { readHolding } from '~/service/drives/readDrives';
import { readOrganisation } from '~/service/settings/readSettings';
import { readUnit } from '~/service/units/readUnit';
import { mayAct } from '~/service/access/viewer';
import { ButtonLink } from '~/web/parts/form/Button';
import { MenuLinks, type MenuLink } from '~/web/parts/frame/MenuLinks';
import { GrowingView } from '~/web/parts/growing/GrowingView';
import { OutlookView } from '~/web/parts/outlook/OutlookView';
import { ViewLinks } from '~/web/parts/frame/ViewLinks';
import { RecordButton } from '~/web/parts/record/RecordButton';
import { AboutView } from '~/web/parts/unit/AboutView';
import { CopiesView } from '~/web/parts/unit/CopiesView';
import { LedgerView } from '~/web/parts/unit/LedgerView';
import { Papers } from '~/web/parts/unit/Papers';
import { PoolPanel } from '~/web/parts/unit/PoolPanel';
import { StandingMark } from '~/web/parts/unit/StandingMark';
import { UnitBays } from '~/web/parts/unit/UnitBays';
import { UnitNeeds } from '~/web/parts/unit/UnitNeeds';
import { UpkeepView } from '~/web/parts/unit/UpkeepView';
import { WatchView } from '~/web/parts/watch/WatchView';
import { isSimulated, readShownWatch } from '~/service/watch/watchOperations';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Unit' };

const VIEWS = [
  ['bays', 'Bays and ledger'],
  ['growing', 'Growing'],
  ['ahead', 'Ahead'],
  ['copies', 'Copies'],
  ['upkeep', 'Upkeep'],
  ['watch', 'Watch'],
  ['papers', 'Papers'],
  ['about', 'About'],
] as const;

export default insidePage('reader', async ({ app, viewer, params, query, now }) => {
  const [unit, { currency }] = await Promise.all([readUnit(app, params['id'] ?? '', now), readOrganisation(app)]);
  if (!unit) notFound();
  const { id, version, state, fill, needs, papers, used, plans, work } = unit;
  const mayRecord = mayAct(viewer, 'keeper');
  const standing = standingOfUnit(state);
  const bay = typeof query['bay'] === 'string' && placesOf(state).includes(query['bay']) ? query['bay'] : undefined;
  const view = VIEWS.find(([name]) => name === query['view'])?.[0] ?? 'bays';
  const [openPlan] = plans;
  const watch = await readShownWatch(app, id);
  const isBare = Object.keys(state.pools).length === 0;
  const common = { id, version, unit: state, mayRecord };
  return (
    <div className="flex min-h-full max-lg:flex-col lg:h-full">
      <div className="relative grid min-w-0 flex-1 auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-4 overflow-y-auto p-5">
        <div className="flex flex-wrap items-baseline justify-between gap-x-6">
          <h1 className="text-xl">
            {state.name}
            <span className="ml-3 text-base font-normal text-muted">
              {state.place.site}, {state.place.room} · {state.profile.name}
              {state.retired ? ' · retired' : state.power === 'off' && ' · switched off'}
              {watch && view !== 'watch' && (
                <>
                  {' · '}
                  <Link href={`/units/${id}?view=watch`} className="text-action underline">
                    {watch.trouble ? 'gives no answer' : watch.doubtful.length > 0 ? 'says otherwise' : 'watched'}
                  </Link>
                </>
              )}
            </span>
          </h1>
          <StandingMark standing={standing}>{standingWords(state, standing)}</StandingMark>
        </div>
        <div className="no-print flex flex-wrap gap-2">
          {mayRecord && <RecordButton />}
          {mayRecord && isBare && !openPlan && !state.retired ? (
            <ButtonLink href={`/units/${id}/commission`}>Commission it by a plan</ButtonLink>
          ) : (
            mayRecord && <MenuLinks words="Plan…" links={isBare ? [] : plansOf(id, state)} />
          )}
          <ButtonLink href={`/units/${id}/lamps`}>Read a lamp</ButtonLink>
          <MenuLinks
            words="More"
            links={[
              ...(mayRecord
                ? [
                    {
                      href: `/units/${id}/report`,
                      words: 'Compare with its page',
                      detail: 'Paste what it shows; contradictions are listed.',
                    },
                  ]
                : []),
              ...(mayRecord && Object.keys(state.drives).length > 0
                ? [
                    {
                      href: `/units/${id}/pools`,
                      words: 'Its pools changed',
                      detail: 'Made, grown, changed or erased: write down what was done.',
                    },
                  ]
                : []),
              ...(isBare
                ? []
                : [
                    {
                      href: `/units/${id}/move`,
                      words: 'Move to another unit',
                      detail: 'Carried, copied or by its assistant: what is possible.',
                    },
                    {
                      href: `/units/${id}/merge`,
                      words: 'Join other units to it',
                      detail: 'Several small ones become one: room, order, names.',
                    },
                  ]),
              { href: `/labels?unit=${id}`, words: 'Labels', detail: 'For the unit, its bays and its drives.' },
              ...(isBare
                ? []
                : [
                    {
                      href: `/units/${id}/rescue`,
                      words: 'Rescue desk',
                      detail: 'A pool is down, or drives are asked to be erased.',
                    },
                  ]),
            ]}
          />
        </div>
        {openPlan && (
          <p className="border-l-4 border-action bg-chosen px-4 py-2">
            <Link href={`/units/${id}/plans/${openPlan.id}`} className="font-semibold text-action underline">
              {openPlan.run.plan.title}
            </Link>
            : {Object.keys(openPlan.run.done).length} of {openPlan.run.plan.steps.length} steps done; next,{' '}
            {(nextStep(openPlan.run)?.title ?? 'finish it').toLowerCase()}.
          </p>
        )}
        <ViewLinks
          label="About this unit"
          links={VIEWS.map(([name, words]) => ({
            href: name === 'bays' ? `/units/${id}` : `/units/${id}?view=${name}`,
            words,
            isHere: view === name,
          }))}
        />
        {view === 'bays' && (
          <>
            <UnitNeeds needs={needs.filter(({ code }) => code !== 'plan-open')} />
            <UnitBays
              key={bay}
              {...common}
              initial={bay}
              currency={currency}
              lights={watch?.trouble ? [] : (watch?.lights ?? [])}
            />
          </>
        )}
        {view === 'bays' && <LedgerView {...{ app, id, mayRecord, query }} unit={state} />}
        {view === 'growing' && (
          <GrowingView
            now={now}
            app={app}
            viewer={viewer}
            id={id}
            version={version}
            unit={state}
            used={used}
            currency={currency}
            today={now.toISOString().slice(0, 10)}
            mayRecord={mayRecord}
          />
        )}
        {view === 'ahead' && <OutlookView {...{ app, id, now, mayRecord }} unit={state} />}
        {view === 'copies' && <CopiesView {...common} now={now.toISOString()} />}
        {view === 'upkeep' && <UpkeepView {...common} today={now.toISOString().slice(0, 10)} />}
        {view === 'watch' && (
          <WatchView
            {...common}
            watch={watch}
            isOwner={mayAct(viewer, 'owner')}
            isSimulated={watch ? await isSimulated(app, watch) : false}
          />
        )}
        {view === 'papers' && <Papers of={{ unit: id }} papers={papers} mayRecord={mayRecord} />}
        {view === 'about' && <AboutView {...common} holding={await readHolding(app, id)} />}
      </div>
      <aside
        aria-label="Pools"
        className="relative shrink-0 border-line bg-surface p-5 max-lg:border-t lg:w-[424px] lg:overflow-y-auto lg:border-l"
      >
        {poolsOf(state).length === 0 && <p className="text-muted">No pool has been made here yet.</p>}
        {poolsOf(state).map((pool) => (
          <PoolPanel
            key={pool.id}
            unit={state}
            pool={pool}
            used={fill.find(({ subject }) => subject === pool.id)}
            work={work}
            days={used[pool.id] ?? []}
          />
        ))}
        <p className="border-t border-line pt-3 text-sm text-muted">
          <strong className="text-ink">Take care.</strong> Earth yourself before touching a bare drive
          {serviceOf(state).opensCase && ', and power down and unplug every supply before opening the case'}. The
          maker’s manual and your site’s rules come before this page.
        </p>
      </aside>
    </div>
  );
});

/** What each plan of a unit in use is called where it is begun. */
const PLAN_LINKS: Readonly<Partial<Record<PlanJob, Omit<MenuLink, 'href'> & { readonly to: string }>>> = {
  replace: {
    to: 'replace',
    words: 'Replace a drive',
    detail: 'Sick, old or failed: one out, one in, and the rebuild sat out.',
  },
  grow: { to: 'grow', words: 'Add drives', detail: 'Into free bays: one, a pair, or a whole group.' },
  'replace-all': { to: 'larger', words: 'Larger drives', detail: 'One after another, until the pool can grow.' },
  convert: {
    to: 'level',
    words: 'Change the level',
    detail: 'A second drive to a single one, double parity from single.',
  },
  'hot-spare': { to: 'spare', words: 'A spare in the unit', detail: 'In a free bay, to step in by itself.' },
  cache: { to: 'cache', words: 'Cache', detail: 'Add it, take it out, or renew it: emptied before a drive comes out.' },
  'new-pool': { to: 'new-pool', words: 'One more pool', detail: 'Of new or idle drives, beside those there are.' },
  extend: { to: 'extend', words: 'One more extension', detail: 'Behind the last: card, cables, dial, power.' },
};

/** The plans that can be begun for a unit with a pool: those that fit it now. */
function plansOf(id: string, state: UnitState): readonly MenuLink[] {
  return plansThatFit(state).flatMap((job) => {
    const { to, ...link } = PLAN_LINKS[job] ?? { to: '' };
    return 'words' in link ? [{ href: `/units/${id}/${to}`, ...link }] : [];
  });
}
