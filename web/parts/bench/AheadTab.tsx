import { useMemo, useState, type ReactNode } from 'react';
import { USUAL_ASSUMPTIONS } from '~/core/appraisal/appraise';
import type { ListedDrive } from '~/core/drive/driveList';
import type { Layout } from '~/core/layout/layout';
import { unitOfLayout } from '~/core/outlook/unitOfLayout';
import type { Profile } from '~/core/platform/profile';
import type { ThoughtRate } from '~/core/risk/thoughtRate';
import type { Enclosure } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { Notice } from '~/web/parts/form/Notice';
import { Switch } from '~/web/parts/form/Tick';
import { OutlookPoolLoader } from '~/web/parts/outlook/OutlookPoolLoader';
import { BENCH_CARE } from './useForeseen';

interface Props {
  readonly layout: Layout;
  readonly drives: readonly ListedDrive[];
  readonly profile: Profile;
  readonly enclosures: readonly Enclosure[];
  readonly rate: ThoughtRate;
}

/** The years to come of the chosen layout once it is built, simulated. */
export function AheadTab({ layout, drives, profile, enclosures, rate }: Props): ReactNode {
  const [now] = useState(() => new Date().toISOString());
  const [areOfOneLot, setAreOfOneLot] = useState(false);
  const planned = useMemo(() => {
    const ofLots = areOfOneLot ? drives.map((drive) => ({ ...drive, model: undefined, lot: 'one' })) : drives;
    return unitOfLayout(profile, enclosures, layout, ofLots, now);
  }, [layout, drives, profile, enclosures, areOfOneLot, now]);
  if (isRefusal(planned)) return <Notice grave>{planned.sentence}</Notice>;
  return (
    <div className="grid gap-3">
      <p className="text-sm text-muted">
        Simulated once it is built, with the dates of purchase and the lots on the sheet; a drive without a date is new.
      </p>
      <Switch words="All of one lot, as out of one box" isOn={areOfOneLot} onChange={setAreOfOneLot} />
      <OutlookPoolLoader
        unit={planned.unit}
        pool={planned.pool.id}
        usedShare={USUAL_ASSUMPTIONS.usedShare}
        rate={rate}
        lots={[]}
        inDrawer={BENCH_CARE.inDrawer}
        scrubDays={BENCH_CARE.scrubDays}
        now={now}
        firstYears="5"
        isNarrow
      />
    </div>
  );
}
