import { readShelf, type UnitOnShelf } from '~/service/readShelf';
import { ButtonLink } from '~/web/parts/form/Button';
import { NeedsHands } from '~/web/parts/shelf/NeedsHands';
import { ShelfBoard } from '~/web/parts/shelf/ShelfBoard';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Shelf' };

export default insidePage('reader', async ({ app }) => {
  const { units, needs } = await readShelf(app);
  const places = new Map<string, UnitOnShelf[]>();
  for (const unit of units) {
    const { site, room } = unit.state.place;
    const place = `${site}, ${room}`;
    places.set(place, [...(places.get(place) ?? []), unit]);
  }
  const names = new Map(units.map(({ id, state }) => [id, state.name]));
  return (
    <div className="flex min-h-full max-lg:flex-col lg:h-full">
      <div className="min-w-0 flex-1 overflow-y-auto p-5">
        <h1 className="sr-only">Shelf</h1>
        {units.length === 0 ? (
          <div className="max-w-[520px]">
            <h2 className="text-xl">The shelf is empty</h2>
            <p className="mt-2 mb-4 text-muted">
              Start on the layout bench: write down the drives you have in hand, see everything they could become, and put the one you choose here as a unit.
              The bench has a sample to try it with.
            </p>
            <ButtonLink look="main" href="/bench">
              Go to the layout bench
            </ButtonLink>
          </div>
        ) : (
          <div className="grid gap-4">
            {[...places].map(([place, standing]) => (
              <ShelfBoard key={place} place={place} units={standing} />
            ))}
          </div>
        )}
      </div>
      <NeedsHands needs={needs} nameOf={(unit) => names.get(unit) ?? ''} />
    </div>
  );
});
