import { bayName } from '~/core/unit/bayName';
import type { ReactNode } from 'react';
import { TASK_WORDS } from '~/core/record/eventWords';
import { factsOf } from '~/core/layout/scheme';
import { formatBytes } from '~/core/quantity/formatBytes';
import { onUnitPage } from '~/core/quantity/onUnitPage';
import { wholePercent } from '~/core/quantity/formatPercent';
import { FULL_LINE } from '~/core/upkeep/need';
import { estimateOfJob } from '~/core/rebuild/estimateOfJob';
import type { LiveEstimate } from '~/core/rebuild/liveEstimate';
import type { WorkKnown } from '~/core/rebuild/workKnown';
import { poolWords } from '~/core/unit/standingWords';
import type { Pool, UnitState } from '~/core/unit/state';
import { volumeAgainstPool } from '~/core/upkeep/volumeAgainstPool';
import type { Reading, ReadingDay } from '~/service/units/readUnit';
import { DaysChart } from '~/web/parts/chart/DaysChart';
import { mapOfPool } from '~/web/parts/map/ofLayout';
import { PoolMap } from '~/web/parts/map/PoolMap';
import { FINDING_WORDS } from '~/web/parts/frame/waitWords';
import { FillBar } from './FillBar';
import { Moment } from './Moment';

interface Props {
  readonly unit: UnitState;
  readonly pool: Pool;
  readonly used: Reading | undefined;
  readonly days: readonly ReadingDay[];
  readonly work: WorkKnown | null;
}

/** As many points as a chart of this width can show. */
const MOST_POINTS = 160;

/** Every so many days, and the last: no more than can be seen. */
function thinned(days: readonly ReadingDay[]): ReadingDay[] {
  const step = Math.ceil(days.length / MOST_POINTS);
  return days.filter((_, i) => (days.length - 1 - i) % step === 0);
}

function Estimate({ of }: { readonly of: LiveEstimate | null }): ReactNode {
  if (!of) return null;
  return (
    <span className="block font-normal">
      Done about <Moment at={of.likely} />, four times out of five between <Moment at={of.low} /> and{' '}
      <Moment at={of.high} />.{of.found.map((finding) => ` ${FINDING_WORDS[finding]}`)}
    </span>
  );
}

/** One pool: its margin, its fill now and over time, its map, its volumes, the work under way. */
export function PoolPanel({ unit, pool, used, days, work }: Props): ReactNode {
  const { unitPage } = unit.profile;
  const volumes = Object.values(unit.volumes).filter((volume) => volume.pool === pool.id);
  const promised = volumes.reduce((sum, { bytes }) => sum + bytes, 0);
  return (
    <section aria-label={pool.name} className="mb-6">
      <h2 className="text-lg">{pool.name}</h2>
      <p className="text-muted">
        {factsOf(pool.scheme).name}
        {pool.groupWidth !== undefined && `, ${String(pool.groupWidth)} wide`} · {poolWords(unit, pool)}
      </p>
      {Object.values(unit.jobs)
        .filter((job) => job.pool === pool.id)
        .map((job) => (
          <p key={job.id} className="mt-1 font-semibold">
            {TASK_WORDS[job.task]}
            {job.onto !== undefined && ` onto ${bayName(unit, unit.drives[job.onto]?.bay)}`}: {job.percent} %, heard{' '}
            <Moment at={job.heardAt} relative />
            <Estimate of={work && estimateOfJob(unit, job, work)} />
          </p>
        ))}
      <p className="mt-2">
        {formatBytes(pool.usableBytes, 'decimal', 2)} usable; the unit’s page shows{' '}
        {onUnitPage(pool.shownBytes, unitPage)}.
      </p>
      {used && (
        <div className="my-2">
          <p className="mb-1 text-sm text-muted">
            {wholePercent(used.value / pool.shownBytes)} % used, {formatBytes(used.value, 'binary', 2)}, read{' '}
            <Moment at={used.at} relative />
          </p>
          <FillBar share={used.value / pool.shownBytes} />
        </div>
      )}
      <div className="mt-3">
        <PoolMap input={mapOfPool(unit, pool)} label={`Pool map of ${pool.name}`} />
      </div>
      <DaysChart
        label="Used, of what the unit’s page shows"
        unit="%"
        most={100}
        points={thinned(days).map(({ day, last }) => ({
          day,
          value: Math.round((last / pool.shownBytes) * 1000) / 10,
        }))}
        line={{ at: FULL_LINE * 100, words: 'planned to' }}
      />
      {volumes.length > 0 && (
        <ul className="mt-3" aria-label="Volumes">
          {volumes.map(({ id, name, bytes, thin, fileSystem, checksums }) => (
            <li key={id} className="flex justify-between gap-3 border-t border-line py-1">
              <span>
                {name}
                <span className="text-muted">
                  {thin && ' thin'}
                  {fileSystem !== undefined && `, ${fileSystem}`}
                  {fileSystem === undefined &&
                    checksums !== undefined &&
                    (checksums ? ', with checksums' : ', without checksums')}
                </span>
              </span>
              <span className="figures">{formatBytes(bytes, 'binary', 2)}</span>
            </li>
          ))}
        </ul>
      )}
      {promised > pool.shownBytes && (
        <p className="mt-1 font-semibold text-watch">{volumeAgainstPool(promised, pool.shownBytes, true).sentence}</p>
      )}
    </section>
  );
}
