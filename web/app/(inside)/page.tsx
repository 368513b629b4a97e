import Link from '~/web/parts/frame/Link';
import { readShelf, type CardOnShelf } from '~/service/units/readShelf';
import { mayAct } from '~/service/access/viewer';
import { ButtonLink } from '~/web/parts/form/Button';
import { Pages } from '~/web/parts/frame/Pages';
import { ViewLinks } from '~/web/parts/frame/ViewLinks';
import { NeedsHands } from '~/web/parts/shelf/NeedsHands';
import { ShelfBoard } from '~/web/parts/shelf/ShelfBoard';
import { pageFrom } from '~/service/door/pageFrom';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Shelf' };

/** Units on one page of the shelf: as many as stay legible. */
const PAGE = 40;
/** Rows of what needs hands at first, and needs looked through for them. */
const [MOST_CAUSES, MOST_NEEDS] = [8, 40];
/** More than anybody has: all of them, in practice. */
const ALL_NEEDS = 2000;

export default insidePage('reader', async ({ app, viewer, query, now }) => {
  const site = typeof query['site'] === 'string' ? query['site'] : undefined;
  const from = pageFrom(query['from']);
  const isAll = query['needs'] === 'all';
  const { units, sites, causes, seen, isAnybodyTold, silentSince, needsTotal, messages, retired } = await readShelf(
    app,
    now,
    site,
    from,
    PAGE,
    isAll ? ALL_NEEDS : MOST_NEEDS,
  );
  const total = sites.reduce((sum, one) => sum + (site === undefined || one.site === site ? one.units : 0), 0);
  const all = sites.reduce((sum, one) => sum + one.units, 0);
  const places = new Map<string, CardOnShelf[]>();
  for (const unit of units) {
    const { site: at, room } = unit.card.place;
    const place = `${at}, ${room}`;
    places.set(place, [...(places.get(place) ?? []), unit]);
  }
  const address = (skip: number): string =>
    `/?${new URLSearchParams({ ...(site === undefined ? {} : { site }), from: String(skip) }).toString()}`;
  return (
    <div className="flex min-h-full max-lg:flex-col-reverse max-lg:justify-end lg:h-full">
      <div className="relative min-w-0 lg:flex-1 overflow-y-auto p-5">
        <h1 className="sr-only">Shelf</h1>
        {all === 0 ? (
          <div className="max-w-[520px]">
            <h2 className="text-xl">The shelf is empty</h2>
            <p className="mt-2 mb-4 text-muted">
              Start on the layout bench: write down the drives you have in hand, see everything they could become, and
              put the one you choose here as a unit. The bench has a sample to try it with. Or register a unit that is
              already in use, or still in its box.
            </p>
            <div className="flex flex-wrap gap-2">
              <ButtonLink look="main" href="/bench">
                Go to the layout bench
              </ButtonLink>
              <ButtonLink href="/units/new">Register a unit</ButtonLink>
            </div>
          </div>
        ) : (
          <div className="grid gap-4">
            <div
              className={`no-print flex flex-wrap items-center justify-between gap-3 ${all > PAGE ? '' : 'lg:-mb-10 lg:justify-end'}`}
            >
              {sites.length > 1 && all > PAGE ? (
                <ViewLinks
                  label="Sites"
                  links={[
                    { href: '/', words: `All ${String(all)}`, isHere: site === undefined },
                    ...sites.map((one) => ({
                      href: `/?site=${encodeURIComponent(one.site)}`,
                      words: `${one.site} ${String(one.units)}`,
                      isHere: one.site === site,
                    })),
                  ]}
                />
              ) : (
                <span className="max-lg:hidden" />
              )}
              <span className="flex min-h-9 flex-wrap items-center gap-4">
                <Link href="/round" className="text-action underline">
                  Evening round
                </Link>
                <Link href="/units/new" className="text-action underline">
                  Register a unit
                </Link>
              </span>
            </div>
            {[...places].map(([place, standing]) => (
              <ShelfBoard key={place} place={place} units={standing} />
            ))}
            <Pages address={address} from={from} size={PAGE} total={total} />
            {retired.length > 0 && (
              <p className="text-sm text-muted" data-retired>
                Retired:{' '}
                {retired.map(({ id, name }, i) => (
                  <span key={id}>
                    {i > 0 && ', '}
                    <Link href={`/units/${id}`} className="text-action underline">
                      {name}
                    </Link>
                  </span>
                ))}
              </p>
            )}
          </div>
        )}
      </div>
      <NeedsHands
        messages={messages}
        causes={causes}
        seen={seen}
        maySay={mayAct(viewer, 'keeper')}
        isAnybodyTold={isAnybodyTold}
        silentSince={silentSince}
        total={needsTotal}
        most={isAll ? causes.length : MOST_CAUSES}
      />
    </div>
  );
});
