import type { PlannedDrive } from '../../../layout/planLayout';
import type { Scheme } from '../../../layout/scheme';
import type { Profile } from '../../../platform/profile';
import type { UnitState } from '../../../unit/state';
import type { CopyLink } from '../../../../schemas/record';
import type { PlanStep } from '../../plan';
import type { PlanDraft } from '../draftPlan';

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
  readonly draft: PlanDraft;
}
