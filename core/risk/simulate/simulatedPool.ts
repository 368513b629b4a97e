/**
 * A law of durations in hours: never less than `leastHours`, and beyond that a Weibull variable of this shape and scale.
 * Scale 0 is always the same; shape 1 with nothing least is the exponential. With `upToHours` it is no Weibull variable: beyond the
 * least any duration up to so many hours is as likely as another.
 */
export interface Lasting {
  readonly leastHours: number;
  readonly scaleHours: number;
  readonly shape: number;
  readonly upToHours?: number;
}

/** A duration that comes at any moment of so many hours: what waits for something that comes at fixed intervals. */
export const withinHours = (hours: number): Lasting => ({ leastHours: 0, scaleHours: 0, shape: 1, upToHours: hours });
/** A duration that is always the same. */
export const always = (hours: number): Lasting => ({ leastHours: hours, scaleHours: 0, shape: 1 });
/** A duration without memory, of this mean. */
export const exponential = (hours: number): Lasting => ({ leastHours: 0, scaleHours: hours, shape: 1 });

export interface SimulatedMember {
  /** What it goes by. */
  readonly serial: string;
  /** Hours it has been in service. */
  readonly ageHours: number;
  /** Weibull law of its life from new: with shape above 1 it fails the more the older it is. */
  readonly life: { readonly shape: number; readonly scaleHours: number };
  /** So many times as likely to fail as its age says, until it is replaced: a drive that shows signs. */
  readonly sickness: number;
  /** Its lot, by place in the pool's list. */
  readonly lot?: number;
  /** How long a drive that takes its place is written. */
  readonly rebuild: Lasting;
  /** Unreadable sectors of it as a whole: expected at any reading, or arising an hour (see `latent`). */
  readonly unreadable: number;
  /** It is missing as the simulation begins, and its rebuild has these hours to go; without them nothing has been begun. */
  readonly missing?: { readonly rebuiltInHours?: number };
}

/** Members of which so many may be missing. */
export interface SimulatedBand {
  /** By place in the pool's list. */
  readonly members: readonly number[];
  readonly redundancy: number;
  /** How much of each of these members, in the same order, is read when this band is rebuilt: 0..1. */
  readonly shares: readonly number[];
}

/**
 * What is thought of a lot before today: how many times as often as others its drives fail, a gamma variable of this shape and
 * rate. Shape equal to rate means "as others, in the mean".
 */
export interface SimulatedLot {
  readonly shape: number;
  readonly rate: number;
}

/** One thing that takes several members at once and for good: a supply that burns, a shelf that falls. */
export interface SharedLoss {
  readonly members: readonly number[];
  readonly perHour: number;
}

/** A pool as it stands, and how it is looked after: all that its life to come depends on. */
export interface SimulatedPool {
  readonly kind: 'simulated-pool';
  readonly members: readonly SimulatedMember[];
  readonly bands: readonly SimulatedBand[];
  readonly lots: readonly SimulatedLot[];
  readonly sharedLosses: readonly SharedLoss[];
  readonly repairs: 'serial' | 'parallel';
  /** Spares in the unit, which step in by themselves, and in the drawer, which wait for hands. */
  readonly spares: { readonly inUnit: number; readonly inDrawer: number };
  /** From a failure to somebody who knows of it, and has a hand free. */
  readonly notice: Lasting;
  /** From then to a new drive in hand: one is ordered for each failure. */
  readonly order: Lasting;
  /** Unreadable sectors: so many at any reading, or arising all the time and found by reading everything now and then. */
  readonly latent:
    | { readonly kind: 'at-any-reading' }
    | {
        readonly kind: 'arising';
        /** From a sector that went bad to the scrub that finds it; `null`: nothing looks for it. */
        readonly found: Lasting | null;
        /** Hours since everything was read last, where that is known and comes again at fixed intervals. */
        readonly sinceHours?: number;
        /** Whether one that goes bad between the failure and the end of the rebuild counts. */
        readonly countsWhileRebuilding: boolean;
      };
}
