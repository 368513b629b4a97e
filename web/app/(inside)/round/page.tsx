import { TASK_WORDS } from '~/core/record/eventWords';
import { poolsOf, drivesExpected } from '~/core/unit/state';
import { lampsOf } from '~/core/upkeep/decodeLamp';
import { readRound } from '~/service/units/readRound';
import { RoundWalk } from '~/web/parts/upkeep/RoundWalk';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Evening round' };

export default insidePage('keeper', async ({ app, query }) => {
  const site = typeof query['site'] === 'string' ? query['site'] : undefined;
  const { units, sites, used } = await readRound(app, site);
  return (
    <div className="max-w-[640px] p-5">
      <h1 className="text-xl">Evening round</h1>
      <RoundWalk
        key={site}
        site={site}
        sites={sites.map((one) => one.site)}
        stops={units.map(({ id, version, state }) => ({
          id,
          version,
          name: state.name,
          place: `${state.place.site}, ${state.place.room}`,
          expected: drivesExpected(state),
          lamps: lampsOf(state.profile).map(({ see }) => see),
          signs: state.signs.map(({ note }) => note),
          pools: poolsOf(state).map(({ id: pool, name, shownBytes }) => {
            const bytes = used[pool];
            return { id: pool, name, percent: bytes === undefined ? null : Math.round((bytes / shownBytes) * 100) };
          }),
          work: poolsOf(state).flatMap(({ id: pool, name }) => {
            const job = Object.values(state.jobs).find((one) => one.pool === pool);
            return job ? [{ pool, words: `${name}: ${TASK_WORDS[job.task]}`, percent: job.percent }] : [];
          }),
          roundAt: state.roundAt,
        }))}
      />
    </div>
  );
});
