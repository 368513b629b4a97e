'use client';
import { useState, type ReactNode } from 'react';
import type { Appraisal } from '~/core/appraisal/appraise';
import { readSize } from '~/core/drive/readSize';
import { layoutName } from '~/core/layout/layoutName';
import type { PlannedDrive } from '~/core/layout/planLayout';
import { oneMoreDrive } from '~/core/pool/oneMore';
import { formatBytes } from '~/core/quantity/formatBytes';
import { hoursWords } from '~/core/quantity/hoursWords';
import { ethernetPayload } from '~/core/speed/ethernetPayload';
import { poolDrives } from '~/core/unit/grownByExpand';
import type { Enclosure, UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { mapOfLayout, mapOfPool } from '~/web/parts/map/ofLayout';
import { PoolMap } from '~/web/parts/map/PoolMap';

/** A unit's pool as it is today: built over the years, not planned from its drives as they are. */
export interface BuiltPool {
  readonly state: UnitState;
  readonly pool: string;
  /** Bytes in use, as last read; `null` when never read. */
  readonly usedBytes: number | null;
}

/** The pool as it was built beside what the same drives would make from scratch, and what starting over wins and costs. */
export function AsBuilt({
  built,
  current,
  drives,
  enclosures,
}: {
  readonly built: BuiltPool;
  readonly current: Appraisal;
  readonly drives: readonly PlannedDrive[];
  readonly enclosures: readonly Enclosure[];
}): ReactNode {
  const [sizeText, setSizeText] = useState('12 TB');
  const pool = built.state.pools[built.pool];
  if (!pool) return null;
  const { layout } = current;
  const won = layout.usableBytes - pool.usableBytes;
  const copied = built.usedBytes ?? pool.usableBytes;
  const hours = (2 * copied) / ethernetPayload(1) / 3600;
  const size = readSize(sizeText);
  const added = isRefusal(size)
    ? null
    : oneMoreDrive(built.state.profile, pool, poolDrives(built.state, pool), size.bytes);
  return (
    <div className="grid gap-3">
      <section>
        <h3>
          {built.state.name} as it was built: {formatBytes(pool.usableBytes, 'decimal', 2)}
        </h3>
        <p className="mb-1 text-sm text-muted">
          {layoutName(pool)}. Built bands are history: a pool grown over years is not what its drives would make today.
        </p>
        <PoolMap
          input={mapOfPool(built.state, pool)}
          height={130}
          label={`Pool map of ${built.state.name} as it was built`}
        />
      </section>
      <section className="border-t border-line pt-2">
        <h3 className="mb-1">From scratch, as {layoutName(layout)}</h3>
        <PoolMap
          input={mapOfLayout(layout, drives, enclosures)}
          height={130}
          label="Pool map of the same drives from scratch"
        />
        <p>
          {formatBytes(layout.usableBytes, 'decimal', 2)}:{' '}
          {won === 0 ? (
            'the same space'
          ) : won > 0 ? (
            <strong>{formatBytes(won, 'decimal', 2)} more</strong>
          ) : (
            `${formatBytes(-won, 'decimal', 2)} less`
          )}
          . Starting over erases the pool. Copying {formatBytes(copied)} off and back takes {hoursWords(hours)} or more
          on gigabit, and another proven copy must exist first.
        </p>
      </section>
      <section className="border-t border-line pt-2">
        <h3 className="mb-1">What one more drive adds to it as it is</h3>
        <label className="flex items-center gap-2">
          A drive of
          <input
            value={sizeText}
            className="field w-28"
            aria-invalid={added === null}
            onChange={(event) => setSizeText(event.target.value)}
          />
        </label>
        <p className="mt-1" aria-live="polite">
          {added === null ? (
            <span className="text-thinned">Write a size as on the label, “12 TB”.</span>
          ) : (
            <>
              <strong>+{formatBytes(added.gainedBytes)}.</strong> {added.sentence}
            </>
          )}
        </p>
      </section>
    </div>
  );
}
