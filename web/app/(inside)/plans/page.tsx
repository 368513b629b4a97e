import Link from '~/web/parts/frame/Link';
import { readPlans } from '~/service/plans/planOperations';
import { readUnitsToPlan } from '~/service/plans/readPlanStart';
import { ButtonLink } from '~/web/parts/form/Button';
import { PlansTable } from '~/web/parts/plan/PlansTable';
import { insidePage } from '~/web/server/insidePage';

/** Plans on one page. */
const PAGE = 50;

export const metadata = { title: 'Plans' };

export default insidePage('reader', async ({ app, query }) => {
  const [plans, { bare, pooled }] = await Promise.all([readPlans(app), readUnitsToPlan(app)]);
  return (
    <div className="grid max-w-[900px] gap-5 p-5">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h1 className="text-xl">Plans</h1>
        <ButtonLink look="main" href="/units/new">
          Register a unit and commission it
        </ButtonLink>
      </div>
      {plans.length === 0 && (
        <p className="max-w-[560px] text-muted">
          Nothing is planned. A plan takes a new unit from its box to its first backup, replaces a drive, or puts in
          larger ones, step by step: each step says why, asks for what proves it, and is remembered.
        </p>
      )}
      {pooled.length > 0 && (
        <section aria-label="Begin a plan">
          <h2 className="text-lg">Begin one</h2>
          <ul className="grid gap-x-6 sm:grid-cols-2">
            {pooled.map(({ id, name }) => (
              <li key={id} className="flex flex-wrap items-center justify-between gap-x-3 border-b border-line py-1.5">
                <Link href={`/units/${id}`} className="font-semibold underline decoration-line">
                  {name}
                </Link>
                <span className="flex gap-x-4">
                  <Link href={`/units/${id}/replace`} className="py-1 text-action underline max-sm:py-2.5">
                    Replace a drive
                  </Link>
                  <Link href={`/units/${id}/larger`} className="py-1 text-action underline max-sm:py-2.5">
                    Larger drives
                  </Link>
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {bare.length > 0 && (
        <section aria-label="Without a pool">
          <h2 className="text-lg">Registered, and without a pool yet</h2>
          <ul>
            {bare.map(({ id, name }) => (
              <li key={id} className="flex items-center justify-between gap-3 border-b border-line py-2">
                <Link href={`/units/${id}`} className="font-semibold underline decoration-line">
                  {name}
                </Link>
                <ButtonLink href={`/units/${id}/commission`}>Commission it</ButtonLink>
              </li>
            ))}
          </ul>
        </section>
      )}
      {plans.length > 0 && <PlansTable plans={plans} path="/plans" query={query} size={PAGE} />}
    </div>
  );
});
