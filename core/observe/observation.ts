import type { PoolSays } from '../unit/poolSaid';
import type { DriveSize } from '../drive/readSize';

/** A bay as a unit shows it, on its page or by its own interface. What it does not say is left out. */
export interface ObservedBay {
  readonly kind: 'observed-bay';
  /** The line of a page it came from, counted from 1; 0 where it came otherwise. */
  readonly line: number;
  readonly bay: string;
  readonly serial?: string;
  readonly model?: string;
  readonly size?: DriveSize;
  readonly state?: 'well' | 'sick' | 'failed' | 'rebuilding' | 'empty';
  readonly percent?: number;
  /** It is a member of a pool the unit has well, with all of it in place. */
  readonly isInWholePool?: true;
  /** Words where its health would stand that are not known here. */
  readonly unknown?: string;
}

/** How many drives a unit counts in one box, or in all. */
export interface ObservedCount {
  readonly line: number;
  readonly enclosure?: string;
  readonly seen: number;
}

/** A box, a supply or a fan, and whether it answers. */
export interface ObservedPart {
  readonly part: 'enclosure' | 'supply' | 'fan';
  readonly name: string;
  readonly isLost: boolean;
}

/** A volume or a pool: which drives it stands on, how full it is, what goes on in it. */
export interface ObservedPool {
  readonly serials: readonly string[];
  readonly usedBytes?: number;
  readonly isWell: boolean;
  /** It says that it does not serve it. */
  readonly isStopped?: true;
  /** Work that goes on in it: a whole percent. */
  readonly percent?: number;
}

/** How a page or a mail has a pool as a whole. */
export interface ObservedPoolWord {
  readonly line: number;
  /** The pool, by its id. */
  readonly pool: string;
  readonly says: PoolSays;
}

/**
 * What somebody or something saw of a unit at one moment. Everything that looks at units makes one of these, and all go
 * through the same comparison.
 */
export interface Observation {
  readonly kind: 'observation';
  /** Its page, pasted by a person; the unit itself, asked; a mail it wrote; or a person who walked past. */
  readonly by: 'page' | 'unit' | 'mail' | 'round';
  readonly bays: readonly ObservedBay[];
  /** Work the page reports without naming a bay, as a percentage. */
  readonly percent?: number;
  readonly counts: readonly ObservedCount[];
  readonly parts?: readonly ObservedPart[];
  readonly pools?: readonly ObservedPool[];
  /** Pools by the words of a page, which names no drives of them. */
  readonly poolWords?: readonly ObservedPoolWord[];
  /** Lines that say something and could not be read. */
  readonly unread: readonly { readonly line: number; readonly text: string }[];
}
