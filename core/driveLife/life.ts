import type { SerialKey } from '../drive/serial';
import type { DriveDescription } from '../../schemas/driveEvent';

export interface Drawer {
  readonly site: string;
  readonly room: string;
  readonly drawer: string;
}

/** Where a drive is. `in-hand`: taken out or received, and nobody has said where it was put. */
export type Whereabouts =
  | { readonly kind: 'in-hand' }
  | ({ readonly kind: 'drawer' } & Drawer)
  | {
      readonly kind: 'bay';
      readonly unit: string;
      readonly unitName: string;
      readonly bay: string;
      readonly place?: string;
    }
  | { readonly kind: 'under-warranty'; readonly to: string }
  | { readonly kind: 'gone'; readonly to: string };

export interface Wipe {
  readonly method: 'clear' | 'purge' | 'destroy';
  readonly how: string;
  readonly by: string;
  readonly checked: boolean;
  readonly at: string;
}

/** A drive over its life, wherever it is: the fold of its own ledger. */
export interface DriveLife {
  readonly kind: 'drive-life';
  readonly serial: SerialKey;
  readonly drive: DriveDescription;
  readonly where: Whereabouts;
  readonly whereSince: string;
  /** The last time it was emptied; forgotten when it goes into a unit again. */
  readonly wiped: Wipe | null;
  /** It showed signs or had failed when it last came out of a unit. */
  readonly sick: { readonly what: 'signs' | 'failed'; readonly at: string; readonly note?: string } | null;
  /** The pool whose data it holds since it came out; `null` once it was emptied or stood elsewhere; not there before it ever came out. */
  readonly holds?: {
    readonly pool: string;
    readonly name: string;
    readonly unitName: string;
    readonly unit: string;
  } | null;
  readonly tested: { readonly result: 'well' | 'sick'; readonly at: string; readonly note?: string } | null;
  /** What came for it under warranty. */
  readonly replacement?: string;
  readonly order?: string;
}
