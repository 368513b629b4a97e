import type { SurvivalRow } from '../survival/survivalTable';
import type { Band } from './band';
import type { Scheme } from './scheme';

/** A stretch of one drive that holds nothing of the pool, and why. */
export interface UnusedStretch {
  readonly kind: 'unused-stretch';
  readonly bay: string;
  readonly fromBytes: number;
  readonly toBytes: number;
  readonly why: string;
}

/**
 * What a set of drives becomes under one scheme, to the byte.
 *
 * raw = usable + protection + unused + system. Metadata and the file system's reserve come out of usable afterwards:
 * shown = usable − metadata.
 */
export interface Layout {
  readonly kind: 'layout';
  readonly scheme: Scheme;
  readonly legal: boolean;
  /** When illegal: why, with the nearest legal step. When legal: what to know before choosing it. */
  readonly reasons: readonly string[];
  readonly groupWidth?: number;
  readonly rawBytes: number;
  readonly usableBytes: number;
  readonly protectionBytes: number;
  readonly unusedBytes: number;
  readonly systemBytes: number;
  readonly poolMetadataBytes: number;
  readonly shownBytes: number;
  readonly fileSystemReserveBytes: number;
  readonly guaranteedFailures: number;
  readonly survival: readonly SurvivalRow[];
  readonly bands: readonly Band[];
  readonly spareBays: readonly string[];
  readonly unused: readonly UnusedStretch[];
}
