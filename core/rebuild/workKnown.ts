import type { Pace } from './paces';

/** What finished work took at a unit of some family. */
export interface UnitPaces {
  readonly unit: string;
  /** Its profile's id. */
  readonly family: string;
  readonly paces: readonly Pace[];
}

/** What is known beside a unit's own state of how long its work takes. */
export interface WorkKnown {
  /** Bytes used by pool, as last read; matters where only used space is rebuilt. */
  readonly used: Readonly<Record<string, number>>;
  /** The units that finished work was read of, by name, itself among them or not. */
  readonly taught?: readonly UnitPaces[];
  /** The time zone people work in, by its name; UTC where nobody said. */
  readonly zone?: string;
}
