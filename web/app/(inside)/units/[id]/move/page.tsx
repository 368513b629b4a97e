import { notFound } from 'next/navigation';
import { isRefusal } from '~/core/value/refusal';
import { readWaysToMove } from '~/service/move/moveOperations';
import { readUnitNames } from '~/service/units/readUnitNames';
import { findUnit } from '~/service/units/unitOperations';
import { Notice } from '~/web/parts/form/Notice';
import { MoveTo } from '~/web/parts/move/MoveTo';
import { WaysToMove } from '~/web/parts/move/WaysToMove';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Move to another unit' };

export default insidePage('reader', async ({ app, params, query }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  const to = typeof query['to'] === 'string' ? query['to'] : '';
  const others = (await readUnitNames(app)).filter(({ id }) => id !== unit.id);
  const ways = to === '' ? null : await readWaysToMove(app, unit.id, to);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 p-5 max-sm:p-4">
      <div>
        <h1 className="text-xl">Move {unit.state.name} to another unit</h1>
        <p className="max-w-[720px] text-muted">
          Which way it can go, why not the others, how long, and from where there is no way back. Touch no drive yet:
          the makers’ manuals of both come first, and a copy that was proven.
        </p>
      </div>
      {others.length === 0 ? (
        <p>No other unit is on the shelf: register the newer one first, with its bays and its family.</p>
      ) : (
        <MoveTo id={unit.id} others={others} to={to} />
      )}
      {ways && (isRefusal(ways) ? <Notice grave>{ways.sentence}</Notice> : <WaysToMove ways={ways} />)}
    </div>
  );
});
