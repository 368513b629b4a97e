import type { FromSchema } from 'json-schema-to-ts';
import { readSize } from '../../core/drive/readSize';
import { appraise, USUAL_ASSUMPTIONS } from '../../core/appraisal/appraise';
import { recommend, USUAL_NEEDS } from '../../core/appraisal/recommend';
import { nextSteps } from '../../core/growth/nextSteps';
import { conversionsOf } from '../../core/pool/converted';
import { drivesByName, membersOnly, poolOfLayout } from '../../core/pool/ofLayout';
import type { Layout } from '../../core/layout/layout';
import { compareLayouts, planLayout, type PlannedDrive } from '../../core/layout/planLayout';
import { factsOf, SCHEMES, type Scheme } from '../../core/layout/scheme';
import { formatBytes } from '../../core/quantity/formatBytes';
import { MOST_BYTES } from '../../core/quantity/bytes';
import type { Profile } from '../../core/platform/profile';
import { isRefusal, refusal, type Refusal } from '../../core/value/refusal';
import { sharedCauses } from '../../core/survival/sharedCauses';
import { volumeAgainstPool } from '../../core/upkeep/volumeAgainstPool';
import { enclosuresOf } from '../../core/unit/enclosures';
import type { appraisalRequestSchema } from '../../schemas/appraisalRequest';
import type { layoutRequestSchema } from '../../schemas/layoutRequest';

/** Checks that bays are distinct and few enough, and that all sizes together can be counted. */
export function whyDrivesDoNotFit(drives: readonly PlannedDrive[], bays: number): Refusal | undefined {
  const seen = new Map<string, number>();
  for (const [i, { bay }] of drives.entries()) {
    if (seen.has(bay)) return refusal('bay-twice', `Bay ${bay} is there twice.`, `/drives/${String(i)}/bay`);
    seen.set(bay, i);
  }
  if (drives.length > bays)
    return refusal('too-many-drives', `${String(drives.length)} drives do not fit ${String(bays)} bays.`, '/drives');
  const total = drives.reduce((sum, { bytes }) => sum + bytes, 0);
  if (total > MOST_BYTES)
    return refusal(
      'too-large',
      `All drives together hold ${formatBytes(total)}; at most ${formatBytes(MOST_BYTES)} are counted to the byte.`,
      '/drives',
    );
  return undefined;
}

/** The drives of a request in whole bytes, or what is wrong with them. */
export function drivesOf<D extends { readonly bay: string; readonly bytes?: number; readonly label?: string }>(
  asked: readonly D[],
  bays: number | undefined,
): (D & { readonly bytes: number })[] | Refusal {
  const drives: (D & { readonly bytes: number })[] = [];
  for (const [i, drive] of asked.entries()) {
    const size = drive.bytes === undefined ? readSize(drive.label ?? '') : { bytes: drive.bytes };
    if (isRefusal(size)) return refusal(size.code, size.sentence, `/drives/${String(i)}/label`);
    drives.push({ ...drive, bytes: size.bytes });
  }
  return whyDrivesDoNotFit(drives, bays ?? drives.length) ?? drives;
}

/** A layout as the interface shows it: what is fixed there, and nothing beside. */
function layoutAnswer({ kind: _kind, unused: _unused, ...layout }: Layout) {
  return layout;
}

/** Every layout these drives could become. */
export function layoutsOf(body: FromSchema<typeof layoutRequestSchema>, profile: Profile) {
  const drives = drivesOf(body.drives, body.bays);
  if (isRefusal(drives)) return drives;
  const layouts = compareLayouts(profile, body.schemes ?? SCHEMES, drives, body.spares ?? 0, body.groupWidth);
  return { layouts: layouts.map(layoutAnswer) };
}

/** What each layout costs, does and risks, how it grows, and which fits what matters. */
export function appraisalsOf(body: FromSchema<typeof appraisalRequestSchema>, profile: Profile) {
  const drives = drivesOf(body.drives, body.bays);
  if (isRefusal(drives)) return drives;
  const { failuresPerYear: rates, ...assumed } = body.assumptions ?? {};
  const [low = 0, high = 0] = rates ?? [];
  if (low > high)
    return refusal(
      'range',
      'The share that fails in a year goes from the lower to the higher.',
      '/assumptions/failuresPerYear',
    );
  const assumptions = { ...USUAL_ASSUMPTIONS, ...assumed, ...(rates ? { failuresPerYear: [low, high] as const } : {}) };
  const bays = body.bays ?? drives.length;
  const wish = body.spareScope === 'group' ? { perGroup: body.spares ?? 0 } : (body.spares ?? 0);
  const enclosures = enclosuresOf(
    profile,
    bays,
    drives.map(({ bay }) => bay),
  );
  const appraisals = compareLayouts(profile, body.schemes ?? SCHEMES, drives, wish, body.groupWidth).map((layout) =>
    appraise(profile, layout, drives, assumptions),
  );
  const becoming = (layout: Layout) =>
    layout.legal
      ? conversionsOf(profile, poolOfLayout(layout), drivesByName(membersOnly(layout, drives)), bays - drives.length)
      : { possible: [], not: [] };
  const ranking = body.needs ? recommend(appraisals, { ...USUAL_NEEDS, ...body.needs }) : null;
  return {
    appraisals: appraisals.map(({ kind: _kind, layout, ...appraisal }) => ({
      layout: layoutAnswer(layout),
      ...appraisal,
      becomes: becoming(layout).possible.map(({ to, keepsData, usableBytes, mostDataBytes, addedDrives }) => ({
        to,
        keepsData,
        usableBytes,
        mostDataBytes,
        addedDrives,
      })),
      becomesNot: becoming(layout).not,
      growth: layout.legal ? nextSteps(profile, layout, drives, bays) : [],
      volume:
        body.volume && layout.legal
          ? volumeAgainstPool(body.volume.bytes, layout.shownBytes - layout.fileSystemReserveBytes, body.volume.thin)
          : null,
      sharedCauses: layout.legal ? sharedCauses(layout.bands, enclosures) : [],
    })),
    ranking:
      ranking?.map(({ appraisal: { layout }, verdicts, wouldWinIf }) => ({
        scheme: layout.scheme,
        ...(layout.groupWidth === undefined ? {} : { groupWidth: layout.groupWidth }),
        verdicts,
        wouldWinIf,
      })) ?? null,
  };
}

/** The one layout that is asked for, of the drives of a request; or what is wrong with them. */
export function layoutAsked<D extends { readonly bay: string; readonly bytes?: number; readonly label?: string }>(
  {
    scheme,
    groupWidth,
    spares = 0,
    bays,
    drives: asked,
  }: {
    readonly scheme: Scheme;
    readonly groupWidth?: number;
    readonly spares?: number;
    readonly bays?: number;
    readonly drives: readonly D[];
  },
  profile: Profile,
): { readonly layout: Layout; readonly drives: readonly (D & { readonly bytes: number })[] } | Refusal {
  const drives = drivesOf(asked, bays);
  if (isRefusal(drives)) return drives;
  if (factsOf(scheme).isGrouped && groupWidth === undefined)
    return refusal('group-width', 'Say how wide the groups are.', '/groupWidth');
  const layout = planLayout(profile, scheme, drives, spares, groupWidth);
  return layout.legal ? { layout, drives } : refusal('not-legal', layout.reasons.join(' '), '/drives');
}
