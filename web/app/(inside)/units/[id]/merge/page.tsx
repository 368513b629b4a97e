import { notFound } from 'next/navigation';
import { hoursWords } from '~/core/quantity/hoursWords';
import { isRefusal } from '~/core/value/refusal';
import { mayAct } from '~/service/access/viewer';
import { readMerge } from '~/service/move/moveOperations';
import { readUnitNames } from '~/service/units/readUnitNames';
import { findUnit } from '~/service/units/findUnit';
import { Notice } from '~/web/parts/form/Notice';
import { JoiningUnits } from '~/web/parts/move/JoiningUnits';
import { WhoJoins } from '~/web/parts/move/WhoJoins';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Join other units to it' };

/** More than one would bring together at once. */
const MOST = 50;

export default insidePage('reader', async ({ app, viewer, params, query }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  const others = (await readUnitNames(app)).filter(({ id }) => id !== unit.id);
  const asked = [query['from'] ?? []].flat().filter((id) => others.some((other) => other.id === id));
  const from = [...new Set(asked)].slice(0, MOST);
  const found = from.length === 0 ? null : await readMerge(app, { to: unit.id, from });
  const { name } = unit.state;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 p-5 max-sm:p-4">
      <div>
        <h1 className="text-xl">Join other units to {name}</h1>
        <p className="max-w-[720px] text-muted">
          Several small ones become one. {name} keeps its name and address; each of the others is copied to it by a plan
          of its own, one after the other, and stays as it is until another copy of it is proven.
        </p>
      </div>
      {others.length === 0 ? (
        <p>No other unit is on the shelf.</p>
      ) : (
        <WhoJoins id={unit.id} others={others} chosen={from} />
      )}
      {found && isRefusal(found) && <Notice grave>{found.sentence}</Notice>}
      {found && !isRefusal(found) && (
        <>
          <JoiningUnits to={unit.id} name={name} joining={found.merge.joining} mayBegin={mayAct(viewer, 'keeper')} />
          {found.merge.joining.length > 1 && found.merge.hours[1] > 0 && (
            <p data-merge-hours>
              All copies, one after the other: {hoursWords(found.merge.hours[0])} to {hoursWords(found.merge.hours[2])},
              likely {hoursWords(found.merge.hours[1])}; between them people are pointed to {name}, and each old unit is
              kept as it is for a while.
            </p>
          )}
        </>
      )}
    </div>
  );
});
