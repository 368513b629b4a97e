import { planLayout, type PlannedDrive } from '../../../layout/planLayout';
import type { Scheme } from '../../../layout/scheme';
import type { Profile } from '../../../platform/profile';
import { formatBytes } from '../../../quantity/formatBytes';
import { bayName, BayName } from '../../../unit/bayName';
import { serviceOf } from '../../../unit/serviceOf';
import { baysOf, driveInBay, type UnitState } from '../../../unit/state';
import { refusal, type Refusal } from '../../../value/refusal';
import type { CopyLink } from '../../../../schemas/record';
import type { PlanStep } from '../../plan';
import { draftPlan, type PlanDraft } from '../draftPlan';

export interface CommissionWish {
  readonly drives: readonly NonNullable<Extract<PlanStep['does'][number], { kind: 'fit-drive' }>['drive']>[];
  readonly pool?: {
    readonly name: string;
    readonly scheme: Scheme;
    readonly groupWidth?: number;
    readonly spares?: number;
  };
  /** One of the family's file systems. */
  readonly fileSystem?: string;
  /** Bytes to copy in; left out when nothing is. */
  readonly copyBytes?: number;
  /** What it comes over; left out means gigabit Ethernet. */
  readonly copyOver?: CopyLink;
  /** What the user's own list of tested drives says of a model; `undefined` when it is not on it. */
  readonly tested?: (model: string) => 'works' | 'avoid' | undefined;
}

/** What every chapter of the plan is written from. */
export interface Commission {
  readonly unit: UnitState;
  readonly wish: CommissionWish;
  /** Drives that stand in it already, and those that come. */
  readonly all: readonly PlannedDrive[];
  readonly fileSystem: Profile['software']['fileSystems'][number] | undefined;
  /** Its bays are not for swapping while it runs. */
  readonly isClosed: boolean;
  /** The unit has not been started yet. */
  readonly isFirst: boolean;
  readonly draft: PlanDraft;
}

/**
 * What a plan that makes a pool is written from, once it is seen that its drives fit and the pool can be made of them.
 *
 * @param idle bays of drives that stand in it by now, and go into the pool too
 * @param isFirst the unit has not been started yet: where the first power-on decides, it does
 */
export function commissionOf(
  unit: UnitState,
  wish: CommissionWish,
  { idle, isFirst }: { readonly idle: readonly string[]; readonly isFirst: boolean },
): Commission | Refusal {
  const { profile } = unit;
  const bays = baysOf(unit);
  const stray = wish.drives.find(({ bay }) => !bays.includes(bay));
  if (stray) return refusal('bay-unknown', `${unit.name} has no bay ${stray.bay}.`, '/drives');
  const twice = wish.drives.find(({ bay }, i) => wish.drives.findIndex((one) => one.bay === bay) !== i);
  if (twice) return refusal('bay-twice', `Two drives are planned for ${bayName(unit, twice.bay)}.`, '/drives');
  const taken = wish.drives.find(({ bay }) => driveInBay(unit, bay));
  if (taken)
    return refusal('bay-occupied', `${BayName(unit, taken.bay)} of ${unit.name} holds a drive already.`, '/drives');
  const fileSystem = profile.software.fileSystems.find(({ name }) => name === wish.fileSystem);
  if (wish.fileSystem !== undefined && !fileSystem)
    return refusal(
      'file-system-unknown',
      `This family offers ${profile.software.fileSystems.map(({ name }) => `“${name}”`).join(' and ')}.`,
      '/fileSystem',
    );
  const standing = idle.flatMap((bay) => {
    const drive = driveInBay(unit, bay);
    return drive ? [{ bay, bytes: drive.bytes, ...(drive.media === undefined ? {} : { media: drive.media }) }] : [];
  });
  const all = [...standing, ...wish.drives];
  const { pool } = wish;
  if (pool) {
    const layout = planLayout(profile, pool.scheme, all, pool.spares ?? 0, pool.groupWidth);
    if (!layout.legal) return refusal('layout-illegal', layout.reasons.join(' '), '/pool/scheme');
    const room = layout.shownBytes - layout.fileSystemReserveBytes;
    if ((wish.copyBytes ?? 0) > room)
      return refusal(
        'does-not-fit',
        `${formatBytes(wish.copyBytes ?? 0)} do not fit: the pool will hold ${formatBytes(room)} for users. Larger or more drives, or less to copy.`,
        '/copyBytes',
      );
  }

  return { unit, wish, all, fileSystem, isClosed: serviceOf(unit).isCold, isFirst, draft: draftPlan() };
}
