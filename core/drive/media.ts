/** What a drive is made of, as far as the arithmetic cares. */
export const MEDIA = ['hard-disk', 'shingled', 'ssd', 'nvme'] as const;
export type Media = (typeof MEDIA)[number];

/**
 * Figures of a kind of drive where its data sheet is not at hand (common practice for drives of the last ten years).
 * A disk is fastest at its edge; flash is flat.
 */
export interface MediaFigures {
  readonly kind: 'media-figures';
  readonly name: string;
  /** Sequential speed at the outer edge, bytes/s. */
  readonly outerBytesPerSecond: number;
  /** Inner speed over outer speed, 0 to 1. */
  readonly innerOverOuter: number;
  /** Small random operations a second. */
  readonly readsPerSecond: number;
  readonly writesPerSecond: number;
  /** Unreadable sectors met per bit read: the data sheet's bound. */
  readonly unreadablePerBit: number;
  /** Data-sheet mean time to failure, hours. */
  readonly mttfHours: number;
  /** Kinds of bay it fits, the tray's adapter included. */
  readonly fits: readonly ('3.5-inch' | '2.5-inch' | 'm2')[];
}

const figures = (values: Omit<MediaFigures, 'kind'>): MediaFigures =>
  Object.freeze({ kind: 'media-figures', ...values });

const FIGURES: Readonly<Record<Media, MediaFigures>> = Object.freeze({
  'hard-disk': figures({
    name: 'hard disk',
    outerBytesPerSecond: 220e6,
    innerOverOuter: 0.5,
    readsPerSecond: 120,
    writesPerSecond: 120,
    unreadablePerBit: 1e-15,
    mttfHours: 1e6,
    fits: ['3.5-inch'],
  }),
  shingled: figures({
    name: 'shingled hard disk',
    outerBytesPerSecond: 180e6,
    innerOverOuter: 0.5,
    readsPerSecond: 100,
    writesPerSecond: 15,
    unreadablePerBit: 1e-14,
    mttfHours: 1e6,
    fits: ['3.5-inch'],
  }),
  ssd: figures({
    name: 'SSD',
    outerBytesPerSecond: 500e6,
    innerOverOuter: 1,
    readsPerSecond: 70_000,
    writesPerSecond: 30_000,
    unreadablePerBit: 1e-17,
    mttfHours: 1.5e6,
    fits: ['3.5-inch', '2.5-inch'],
  }),
  nvme: figures({
    name: 'NVMe drive',
    outerBytesPerSecond: 2500e6,
    innerOverOuter: 1,
    readsPerSecond: 300_000,
    writesPerSecond: 100_000,
    unreadablePerBit: 1e-17,
    mttfHours: 1.5e6,
    fits: ['m2'],
  }),
});

/** Whether it has no heads to move. */
export function isFlash(media: Media): boolean {
  return media === 'ssd' || media === 'nvme';
}

/** What is known of a kind of drive: speeds in bytes/s, error rates, the bays it fits. Sources stand beside the figures. */
export function figuresOf(media: Media): MediaFigures {
  return FIGURES[media];
}

/** Reads a kind of drive as people write it; `null` for anything else. */
export function readMedia(text: string): Media | null {
  const plain = text.toLowerCase().replace(/[^a-z0-9]/g, '');
  if (['', 'hdd', 'harddisk', 'disk', 'cmr', 'conventional', 'hard'].includes(plain)) return 'hard-disk';
  if (['smr', 'shingled'].includes(plain)) return 'shingled';
  if (['ssd', 'flash', 'sata ssd', 'satassd'].includes(plain)) return 'ssd';
  if (['nvme', 'm2', 'nvmessd'].includes(plain)) return 'nvme';
  return null;
}
