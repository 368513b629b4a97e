'use client';
import {
  parseAsBoolean,
  parseAsFloat,
  parseAsInteger,
  parseAsString,
  parseAsStringLiteral,
  useQueryStates,
} from 'nuqs';
import { useCallback, useMemo } from 'react';
import { appraise, USUAL_ASSUMPTIONS, type Appraisal, type Assumptions } from '~/core/appraisal/appraise';
import { recommend, USUAL_NEEDS, type Needs, type RankedLayout } from '~/core/appraisal/recommend';
import type { ListedDrive } from '~/core/drive/driveList';
import { layoutKey } from '~/core/layout/layoutName';
import type { Profile } from '~/core/platform/profile';
import { rateGroupOf, type ThoughtRate, type ThoughtRates } from '~/core/risk/thoughtRate';
import { enclosuresOf, fewestBays } from '~/core/unit/enclosures';
import { readEnclosures } from '~/core/unit/enclosuresText';
import type { Enclosure } from '~/core/unit/state';
import type { BenchAsked } from './compareAll';
import { useCompared } from './useCompared';

/** The bench's choices stand in the address, so that it can be sent to a colleague. */
const ADDRESS = {
  profile: parseAsString.withDefault('plain'),
  spares: parseAsInteger.withDefault(0),
  each: parseAsBoolean.withDefault(false),
  port: parseAsFloat.withDefault(USUAL_ASSUMPTIONS.portGigabits),
  bays: parseAsInteger,
  /** The enclosures of the unit the drives came from (core/unit/enclosuresText). */
  boxes: parseAsString,
  layout: parseAsString,
  survive: parseAsInteger,
  hold: parseAsFloat,
  growth: parseAsFloat,
  years: parseAsFloat,
  price: parseAsFloat,
  work: parseAsStringLiteral(['large-files', 'many-small']),
  still: parseAsBoolean,
};

export interface BenchState {
  readonly profile: Profile;
  readonly bays: number;
  readonly choices: readonly number[];
  /** The boxes the bays are in: as they were registered where the drives come from a unit, else as the family has them. */
  readonly enclosures: readonly Enclosure[];
  readonly areRegistered: boolean;
  readonly spares: number;
  /** So many spares for each group, where there are groups. */
  readonly each: boolean;
  readonly assumptions: Assumptions;
  /** What the appraisals are of: for a moment after a change, the drives before it. */
  readonly compared: BenchAsked;
  /** What is thought of how often such drives fail. */
  readonly rate: ThoughtRate;
  /** False until there is a first comparison. */
  readonly isCompared: boolean;
  /** False while what stands there is of other drives or choices than these. */
  readonly isNow: boolean;
  /** The same layout with its risk from the lower to the higher rate. */
  readonly inFull: (appraisal: Appraisal) => Appraisal;
  readonly needs: Needs;
  /** True once somebody said what matters. */
  readonly isAsked: boolean;
  readonly appraisals: readonly Appraisal[];
  readonly ranking: readonly RankedLayout[];
  readonly current: Appraisal | undefined;
  readonly change: (values: {
    profile?: string;
    spares?: number;
    each?: boolean;
    port?: number;
    bays?: number;
    layout?: string;
  }) => void;
  /** Takes a family that was only just described: the page comes anew with it. */
  readonly takeNew: (profile: string) => void;
  readonly changeNeeds: (change: Partial<Needs>) => void;
}

/** Everything the bench shows, from the drives and the address. */
export function useBench(
  profiles: readonly Profile[],
  drives: readonly ListedDrive[],
  rates: ThoughtRates,
): BenchState {
  const [address, setAddress] = useQueryStates(ADDRESS);
  const profile = profiles.find(({ id }) => id === address.profile) ?? (profiles[0] as Profile);
  const named = useMemo(() => drives.map(({ bay }) => bay), [drives]);
  const fewest = fewestBays(named);
  const registered = useMemo(() => {
    const boxes = address.boxes === null ? null : readEnclosures(address.boxes);
    const all = new Set(boxes?.flatMap((box) => box.bays));
    return boxes && named.every((bay) => all.has(bay)) ? boxes : null;
  }, [address.boxes, named]);
  const there = registered?.reduce((sum, box) => sum + box.bays.length, 0);
  const offered = profile.bays.choices.filter((count) => count >= fewest);
  // What was chosen is kept when another family is: that it does not come so is said.
  const kept = there ?? (address.bays !== null && address.bays >= fewest ? address.bays : undefined);
  const choices = kept === undefined || offered.includes(kept) ? offered : [...offered, kept].sort((a, b) => a - b);
  const bays = kept ?? choices[0] ?? fewest;
  const enclosures = useMemo(
    () => registered ?? enclosuresOf(profile, bays, named),
    [registered, profile, bays, named],
  );
  const { survive, hold, growth, years, price, work, still } = address;
  const isAsked = [survive, hold, growth, years, price, work, still].some((value) => value !== null);
  const needs = useMemo<Needs>(
    () => ({
      survive: survive ?? USUAL_NEEDS.survive,
      terabytesNow: hold ?? USUAL_NEEDS.terabytesNow,
      growthPerYear: growth ?? USUAL_NEEDS.growthPerYear,
      years: years ?? USUAL_NEEDS.years,
      mostCentsPerTB: price,
      work: work ?? USUAL_NEEDS.work,
      mayStandStill: still ?? USUAL_NEEDS.mayStandStill,
    }),
    [survive, hold, growth, years, price, work, still],
  );
  const { port } = address;
  const assumptions = useMemo(
    () => ({
      ...USUAL_ASSUMPTIONS,
      portGigabits: port > 0 ? port : USUAL_ASSUMPTIONS.portGigabits,
      years: needs.years > 0 ? needs.years : USUAL_ASSUMPTIONS.years,
    }),
    [port, needs.years],
  );

  // Typing goes first: the comparison follows from beside.
  const { spares, each } = address;
  const rate = rates[rateGroupOf(drives[0]?.media)];
  const { failuresPerYear } = rate;
  const {
    of: asked,
    appraisals,
    isThere,
    isNow,
  } = useCompared(
    useMemo(
      () => ({ profile, drives, wish: each ? { perGroup: spares } : spares, assumptions, failuresPerYear }),
      [profile, drives, spares, each, assumptions, failuresPerYear],
    ),
  );
  const ranking = useMemo(() => recommend(appraisals, needs), [appraisals, needs]);
  const legal = appraisals.filter(({ layout }) => layout.legal);
  const inFull = useCallback(
    ({ layout }: Appraisal): Appraisal =>
      appraise(asked.profile, layout, asked.drives, {
        ...asked.assumptions,
        failuresPerYear: asked.failuresPerYear,
      }),
    [asked],
  );
  return {
    inFull,
    compared: asked,
    rate,
    isCompared: isThere,
    isNow,
    profile,
    bays,
    choices,
    enclosures,
    areRegistered: registered !== null,
    spares,
    each,
    assumptions,
    needs,
    isAsked,
    appraisals,
    ranking,
    current:
      legal.find(({ layout }) => layoutKey(layout) === address.layout) ??
      (isAsked ? ranking[0]?.appraisal : mostSpaceThatSurvivesOne(legal)) ??
      legal[0],
    takeNew: (id) => void setAddress({ profile: id }, { shallow: false }),
    // Another number of bays is another box; another family keeps the boxes there are, and the bays somebody chose.
    change: (values) => void setAddress('bays' in values ? { ...values, boxes: null } : values),
    changeNeeds: (change) => {
      const { survive, terabytesNow, growthPerYear, years, mostCentsPerTB, work, mayStandStill } = {
        ...needs,
        ...change,
      };
      void setAddress({
        survive: Math.round(survive),
        hold: terabytesNow,
        growth: growthPerYear,
        years,
        price: mostCentsPerTB,
        work,
        still: mayStandStill,
      });
    },
  };
}

/** What is shown before anybody has chosen. */
function mostSpaceThatSurvivesOne(legal: readonly Appraisal[]): Appraisal | undefined {
  return legal
    .filter(({ layout }) => layout.guaranteedFailures > 0)
    .reduce<Appraisal | undefined>(
      (best, one) => (best === undefined || one.layout.usableBytes > best.layout.usableBytes ? one : best),
      undefined,
    );
}
