import type { UnitState } from '../../../unit/state';

/** The two units of a move, by id, and the bytes in use by pool. */
export interface MoveAround {
  readonly from: string;
  readonly target: UnitState;
  readonly used: Readonly<Record<string, number>>;
}

/** The two units a move is written from. */
export interface BothUnits {
  readonly from: string;
  readonly to: string;
  readonly old: UnitState;
  readonly newer: UnitState;
  readonly used: Readonly<Record<string, number>>;
}
