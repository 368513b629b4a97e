/** Members that are alike: one rate of failure, one rebuild, in the same bands. */
export interface AlikeMembers {
  readonly count: number;
  /** Failures an hour of one of them. */
  readonly failureRate: number;
  /** Mean hours to write one anew, once a drive is in hand. */
  readonly rebuildHours: number;
  /** Unreadable sectors met per byte read of one of them. */
  readonly unreadablePerByte: number;
  /** The bands they are in, by their place in the group's list. */
  readonly bands: readonly number[];
}

/** Members that stand and fall together, each with its own figures. */
export interface MemberGroup {
  readonly kinds: readonly AlikeMembers[];
  readonly bands: readonly {
    readonly redundancy: number;
    /** Bytes read of each member that is left when one is written anew and none more may be missing. */
    readonly readBytes: number;
  }[];
  readonly repairs: 'serial' | 'parallel';
  /** Drives in hand when all is well. */
  readonly spares: number;
  /** Mean hours from a failure, when the next drive is ordered, to that drive being in hand; 0: always in hand. */
  readonly orderHours: number;
  /** Failures an hour elsewhere that take from the same spares. */
  readonly othersFailureRate?: number;
}
