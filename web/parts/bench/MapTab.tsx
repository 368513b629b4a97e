'use client';
import { useState, type ReactNode } from 'react';
import type { Layout } from '~/core/layout/layout';
import type { PlannedDrive } from '~/core/layout/planLayout';
import { layoutName } from '~/core/layout/layoutName';
import { factsOf, schoolsOf } from '~/core/layout/scheme';
import { marginOf } from '~/core/survival/marginOf';
import { membersLost } from '~/core/survival/membersLost';
import { bayShort } from '~/core/unit/bayName';
import type { Enclosure } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { mapOfLayout } from '~/web/parts/map/ofLayout';
import { PoolMap } from '~/web/parts/map/PoolMap';

/** The pool map, with drives to think away and what becomes of the data then. */
export function MapTab({
  layout,
  drives,
  enclosures,
}: {
  readonly layout: Layout;
  readonly drives: readonly PlannedDrive[];
  readonly enclosures: readonly Enclosure[];
}): ReactNode {
  const [missing, setMissing] = useState<ReadonlySet<string>>(new Set());
  const toggle = (bay: string): void =>
    setMissing((before) => new Set(before.has(bay) ? [...before].filter((other) => other !== bay) : [...before, bay]));
  const { sentence } = factsOf(layout.scheme);
  const schools = schoolsOf(layout.scheme);
  return (
    <>
      <p className="mb-2 text-muted">{sentence} Hatching is protection, dots are unused.</p>
      <PoolMap
        input={mapOfLayout(layout, drives, enclosures, missing)}
        height={236}
        label={`Pool map of ${layoutName(layout)}`}
      />
      <ThinkAway enclosures={enclosures} drives={drives} missing={missing} onToggle={toggle} />
      <div className="mt-2 min-h-12" aria-live="polite">
        {missing.size > 0 && (
          <Outcome enclosures={enclosures} layout={layout} missing={missing} onBack={() => setMissing(new Set())} />
        )}
      </div>
      {schools !== undefined && <p className="mt-2 text-sm text-muted">Practitioners disagree. {schools}</p>}
      {layout.reasons.map((reason) => (
        <div key={reason} className="mt-2">
          <Notice>{reason}</Notice>
        </div>
      ))}
    </>
  );
}

function Outcome({
  layout,
  enclosures,
  missing,
  onBack,
}: {
  readonly layout: Layout;
  readonly enclosures: readonly Enclosure[];
  readonly missing: ReadonlySet<string>;
  readonly onBack: () => void;
}): ReactNode {
  const placed = (list: Iterable<string>): string => [...list].map((bay) => bayShort({ enclosures }, bay)).join(', ');
  const bays = placed(missing);
  const without = `Without ${missing.size === 1 ? 'bay' : 'bays'} ${bays}`;
  const lost = membersLost(layout.bands, factsOf(layout.scheme).loses, missing);
  const margin = marginOf(layout.bands, missing);
  const short = layout.bands.flatMap((band, i) => (marginOf([band], missing) < 0 ? [String(i + 1)] : []));
  const isPool = factsOf(layout.scheme).loses === 'pool';
  return (
    <div className="flex items-start justify-between gap-3">
      <p>
        {lost.length === 0 ? (
          <>
            {without} nothing is lost. It can lose {margin === 0 ? 'none' : String(margin)} more.
          </>
        ) : (
          <strong className="text-thinned">
            {without}{' '}
            {isPool
              ? 'the whole pool is lost'
              : `the files of ${lost.length === 1 ? 'bay' : 'bays'} ${placed(lost)} are lost; all others stay`}
            :{' '}
            {short.length === 1
              ? `band ${short[0] ?? ''} is`
              : `bands ${short.slice(0, 6).join(', ')}${short.length > 6 ? '…' : ''} are`}{' '}
            short of more members than protection makes up for.
          </strong>
        )}
      </p>
      <Button className="shrink-0" onClick={onBack}>
        Put back
      </Button>
    </div>
  );
}

/** Toggles that take a drive out in thought, and put it back. */
function ThinkAway({
  enclosures,
  drives,
  missing,
  onToggle,
}: {
  readonly enclosures: readonly Enclosure[];
  readonly drives: readonly PlannedDrive[];
  readonly missing: ReadonlySet<string>;
  readonly onToggle: (bay: string) => void;
}): ReactNode {
  return (
    <fieldset className="mt-2 flex flex-wrap items-center gap-1">
      <legend className="float-left mr-2 text-sm text-muted">Without bay</legend>
      {drives.map(({ bay }) => (
        <button
          key={bay}
          type="button"
          aria-pressed={missing.has(bay)}
          onClick={() => onToggle(bay)}
          className={`min-h-7 min-w-7 border px-1.5 max-sm:min-h-11 max-sm:min-w-11 ${missing.has(bay) ? 'border-thinned bg-thinned-ground font-bold text-thinned line-through' : 'border-line bg-surface hover:bg-chosen'}`}
        >
          {bayShort({ enclosures }, bay)}
        </button>
      ))}
    </fieldset>
  );
}
