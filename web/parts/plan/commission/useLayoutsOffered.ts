'use client';
import { layoutKey } from '~/core/layout/layoutName';
import { SCHEMES } from '~/core/layout/scheme';
import { rateGroupOf, type ThoughtRates } from '~/core/risk/thoughtRate';
import { driveInBay, type UnitState } from '~/core/unit/state';
import type { CommissionWish } from '~/core/plan/makers/commission/commission';
import type { AnswerOf } from '~/web/parts/form/api';
import { api } from '~/web/parts/form/api';
import { useAsked } from '~/web/parts/form/useAsked';

export type Offered = AnswerOf<'POST /appraisals'>['appraisals'][number];

/** Stands in every bay as long as no drive is written down: it shows what so many bays can become. */
const STAND_IN_BYTES = 8_001_563_222_016;

interface LayoutsOffered {
  /** Possible ones first, most space first among those that survive as much; `null` until they are reckoned. */
  readonly layouts: readonly Offered[] | null;
  /** Nothing is written down yet: they are of drives of one size in every bay. */
  readonly areStandIns: boolean;
}

interface Planned {
  readonly empty: readonly string[];
  /** Bays of drives that stand there and go in too. */
  readonly idle: readonly string[];
  readonly drives: CommissionWish['drives'];
  readonly spares: number;
  readonly rates: ThoughtRates;
}

/** What the drives of a commissioning can become on this unit, each with what it holds, survives and risks: reckoned by the server. */
export function useLayoutsOffered(unit: UnitState, { empty, idle, drives, spares, rates }: Planned): LayoutsOffered {
  const standing = idle.flatMap((bay) => {
    const drive = driveInBay(unit, bay);
    return drive ? [{ bay, bytes: drive.bytes }] : [];
  });
  const written = [...standing, ...drives.map(({ bay, bytes }) => ({ bay, bytes }))];
  const areStandIns = written.length === 0;
  const asked = areStandIns ? empty.map((bay) => ({ bay, bytes: STAND_IN_BYTES })) : written;
  const schemes = SCHEMES.filter((scheme) => unit.profile.schemes[scheme]);
  const body = {
    profile: unit.profile,
    drives: asked,
    spares,
    schemes,
    assumptions: { failuresPerYear: [...rates[rateGroupOf(drives[0]?.media)].failuresPerYear] },
  };
  const { answer, last } = useAsked(
    asked.length === 0 ? null : JSON.stringify([asked, spares]),
    (signal) => api('POST /appraisals', { body }, signal),
    {
      pauseMs: 300,
    },
  );
  const shown = answer ?? last;
  return {
    areStandIns,
    layouts:
      shown &&
      [...shown.appraisals].sort(
        ({ layout: a }, { layout: b }) =>
          Number(b.legal) - Number(a.legal) ||
          Number(b.guaranteedFailures > 0) - Number(a.guaranteedFailures > 0) ||
          b.usableBytes - a.usableBytes,
      ),
  };
}

/** Its name in the form. */
export function offeredKey({ layout }: Offered): string {
  return layoutKey(layout);
}

/** The one to open on: most space of those that survive a failure, else of those there are. */
export function firstOffered(layouts: readonly Offered[]): string {
  const first = layouts.find(({ layout }) => layout.legal);
  return first ? offeredKey(first) : '';
}
