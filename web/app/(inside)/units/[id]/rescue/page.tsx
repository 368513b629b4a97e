import { bayName } from '~/core/unit/bayName';
import { poolsOf, type Pool } from '~/core/unit/state';
import Link from '~/web/parts/frame/Link';
import { notFound } from 'next/navigation';
import { readRescue } from '~/service/units/readRescue';
import { mayAct } from '~/service/access/viewer';
import { Notice } from '~/web/parts/form/Notice';
import { BeginRescue } from '~/web/parts/plan/BeginRescue';
import { Moment } from '~/web/parts/unit/Moment';
import { PoolSaysForm } from '~/web/parts/unit/PoolSaysForm';
import { Serial } from '~/web/parts/unit/Serial';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Rescue desk' };

export default insidePage('reader', async ({ app, viewer, params }) => {
  const found = await readRescue(app, params['id']);
  if (!found) notFound();
  const { unit, rescue } = found;
  const mayRecord = mayAct(viewer, 'keeper');
  const running = Object.values(unit.state.plans).find(({ job }) => job === 'rescue');
  return (
    <div className="grid max-w-[1040px] gap-5 p-5 max-sm:p-4" data-rescue>
      <div>
        <h1 className="text-xl">Rescue desk: {unit.state.name}</h1>
        <p className="text-muted">
          {unit.state.place.site}, {unit.state.place.room} ·{' '}
          <Link href={`/units/${unit.id}`} className="text-action underline">
            the unit
          </Link>
        </p>
      </div>
      {rescue.copies.length > 0 && (
        <Notice title="First of all: a copy is on record. With a good copy nobody needs rescue.">
          {rescue.copies.map((one) => (
            <p key={one}>{one}</p>
          ))}
          <p>Open a file of it now, on another computer. Copy nothing back onto this unit yet.</p>
        </Notice>
      )}
      <Notice grave title="Hands off first. What is on the drives now is the most there will ever be.">
        <ul className="mt-1 list-disc pl-5">
          {rescue.leave.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      </Notice>
      {rescue.pools.length === 0 && (
        <>
          <p className="max-w-[640px]">
            By the record no pool of this unit has stopped. If its page says otherwise, say so here first; if it offers
            only to erase drives that were moved, begin below.
          </p>
          {mayRecord &&
            poolsOf(unit.state).map((pool) => (
              <PoolSaysForm key={pool.id} id={unit.id} version={unit.version} unit={unit.state} pool={pool} />
            ))}
        </>
      )}
      {rescue.pools.map((pool) => (
        <section key={pool.pool} aria-label={pool.name}>
          <h2 className="text-lg">{pool.name}</h2>
          <p className="max-w-[720px] text-lg">
            {pool.words}
            {pool.stoppedAt !== null && (
              <>
                {' '}
                It stopped <Moment at={pool.stoppedAt} />.
              </>
            )}{' '}
            {pool.isGivenUp ? (
              <strong>It was given up: its data is recorded as lost.</strong>
            ) : (
              <strong>Nothing is proven lost.</strong>
            )}
          </p>
          {pool.isAllInPlace && !pool.isGivenUp && (
            <p className="mt-2 max-w-[720px] text-lg">
              Every drive it needs stands in its bay: leave them there, and gather nothing. First try, if nothing
              clicks: shut {unit.state.name} down in its own page, switch it on once, and look what it says.
            </p>
          )}
          {pool.tryFirst.length > 0 && (
            <>
              <h3 className="mt-3 font-semibold">
                {pool.tryFirst.every(({ bay }) => bay !== null)
                  ? 'What it counts as missing, and where each is'
                  : 'Keep all of these; let the unit try the sound ones, in this order'}
              </h3>
              <ol className="mt-1 grid gap-2">
                {pool.tryFirst.map(({ serial, isSick, leftAt, whereabouts, words }, i) => (
                  <li key={serial} className="grid grid-cols-[2rem_1fr] border border-line bg-surface px-3 py-2">
                    <span className="text-lg font-semibold">{isSick ? '–' : i + 1}</span>
                    <span>
                      <span className="text-lg">
                        <Serial of={serial} />
                      </span>{' '}
                      · {whereabouts}; counted as missing since <Moment at={leftAt} />
                      <span className="block">{words}</span>
                    </span>
                  </li>
                ))}
              </ol>
            </>
          )}
          <p className="mt-2 text-muted">
            Still in place, and not to be moved:{' '}
            {pool.stillThere.map(({ bay, serial }) => `${bayName(unit.state, bay)} ${serial}`).join(', ') || 'none'}.
          </p>
          {mayRecord && unit.state.pools[pool.pool] && (
            <div className="mt-3">
              <PoolSaysForm
                id={unit.id}
                version={unit.version}
                unit={unit.state}
                pool={unit.state.pools[pool.pool] as Pool}
              />
            </div>
          )}
        </section>
      ))}
      <div className="grid gap-5 md:grid-cols-2">
        <section aria-label="Write down">
          <h2 className="text-lg">Write down, before anything changes</h2>
          <ul className="mt-1 list-disc pl-5">
            {rescue.writeDown.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </section>
        <section aria-label="Stop and call">
          <h2 className="text-lg">Stop, and call a recovery firm, when</h2>
          <ul className="mt-1 list-disc pl-5">
            {rescue.stopAndCall.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
        </section>
      </div>
      <section aria-label="What a recovery firm asks">
        <h2 className="text-lg">What a recovery firm will ask</h2>
        <table className="mt-1 w-full border border-line bg-surface">
          <tbody>
            {rescue.firmAsks.map(({ question, answer }) => (
              <tr key={question} className="border-t border-line align-top">
                <th scope="row" className="w-56 px-3 py-1.5 text-left font-semibold max-sm:w-36">
                  {question}
                </th>
                <td className="px-3 py-1.5 break-words">{answer}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {running ? (
        <Link href={`/units/${unit.id}/plans/${running.id}`} className="text-action underline">
          The rescue is under way: go on with it
        </Link>
      ) : (
        mayRecord && <BeginRescue id={unit.id} version={unit.version} isLost={rescue.pools.length > 0} />
      )}
      <p className="text-sm text-muted">
        The maker’s support, local codes and a recovery firm’s word come before this page.
      </p>
    </div>
  );
});
