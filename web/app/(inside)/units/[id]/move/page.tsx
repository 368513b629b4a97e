import Link from '~/web/parts/frame/Link';
import { notFound } from 'next/navigation';
import { isRefusal } from '~/core/value/refusal';
import { readMove } from '~/service/move/moveOperations';
import { readUnitNames } from '~/service/units/readUnitNames';
import { findUnit } from '~/service/units/unitOperations';
import { Notice } from '~/web/parts/form/Notice';
import { mayAct } from '~/service/access/viewer';
import { WAYS_TO_MOVE } from '~/schemas/moveRequest';
import { CarryBack } from '~/web/parts/plan/CarryBack';
import { BeginPlan } from '~/web/parts/plan/BeginPlan';
import { PlanAside } from '~/web/parts/plan/PlanAsk';
import { MoveTo } from '~/web/parts/move/MoveTo';
import { OldDrive } from '~/web/parts/move/OldDrive';
import { WaysToMove } from '~/web/parts/move/WaysToMove';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Move to another unit' };

export default insidePage('reader', async ({ app, viewer, params, query, now }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  const to = typeof query['to'] === 'string' ? query['to'] : '';
  const others = (await readUnitNames(app)).filter(({ id }) => id !== unit.id);
  const way = WAYS_TO_MOVE.find((one) => one === query['way']);
  const isCopied = way === 'copy' || way === 'assistant';
  const addOld = isCopied && query['old'] === 'added';
  const move = to === '' ? null : await readMove(app, { from: unit.id, to, way, addOld }, now);
  const tried = move && !isRefusal(move) ? move.tried : undefined;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 p-5 max-sm:p-4">
      <div>
        <h1 className="text-xl">Move {unit.state.name} to another unit</h1>
        <p className="max-w-[720px] text-muted">
          Which way it can go, why not the others, how long, and from where there is no way back. Touch no drive yet:
          the makers’ manuals of both come first, and a copy that was proven.
        </p>
      </div>
      {unit.state.packed && (
        <Notice grave title={`The drives of ${unit.state.name} are on the way to another unit`}>
          <p>Erase nothing, and fit them nowhere else. They go back into the bays they had.</p>
          <CarryBack of={unit} mayRecord={mayAct(viewer, 'keeper')} isReady />
        </Notice>
      )}
      {others.length > 0 && <MoveTo id={unit.id} others={others} to={to} />}
      {to === '' && (
        <p>
          {others.length === 0 ? 'No other unit is on the shelf. ' : 'Not among them? '}
          <Link href="/units/new" className="text-action underline">
            Register the newer one
          </Link>
          , with its bays and its family, in its box or unpacked.
        </p>
      )}
      {move && isRefusal(move) && <Notice grave>{move.sentence}</Notice>}
      {move && !isRefusal(move) && (
        <div className={tried ? 'grid items-start gap-4 lg:grid-cols-2' : 'grid'}>
          <WaysToMove ways={move.ways} chosen={way} hrefOf={(one) => `/units/${unit.id}/move?to=${to}&way=${one}`} />
          {tried && way && (
            <div className="grid grid-cols-[minmax(0,1fr)] gap-3 max-lg:order-first" data-move-plan={way}>
              {isCopied && (
                <OldDrive
                  address={`/units/${unit.id}/move?to=${to}&way=${way}`}
                  isAdded={addOld}
                  whyNot={move.oldStays}
                />
              )}
              {mayAct(viewer, 'keeper') && (
                <BeginPlan
                  id={unit.id}
                  version={unit.version}
                  job="move"
                  wish={{ to, way, ...(addOld ? { addOld } : {}) }}
                  isReady={!isRefusal(tried)}
                  words="Begin the move"
                />
              )}
              <PlanAside tried={isRefusal(tried) ? { ...tried, kind: 'refused' } : { kind: 'tried', ...tried }} />
            </div>
          )}
        </div>
      )}
    </div>
  );
});
