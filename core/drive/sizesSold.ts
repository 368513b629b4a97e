/** Sizes disks are sold in, by their labels, GB (common practice, from memory): what somebody buys to grow by. */
export const DISKS_SOLD: readonly number[] = [
  1000, 2000, 3000, 4000, 6000, 8000, 10_000, 12_000, 14_000, 16_000, 18_000, 20_000, 22_000, 24_000, 28_000, 32_000,
  36_000, 40_000,
];

/** Sizes flash drives are sold in that disks are not, GB (common practice, from memory). */
const FLASH_SOLD: readonly number[] = [
  120, 128, 240, 250, 256, 480, 512, 800, 960, 1600, 1920, 3200, 3840, 7680, 15_360, 30_720, 61_440, 122_880,
];

/** Sizes of which a page may show one, with those of former days, GB. */
export const SIZES_SOLD: readonly number[] = [...DISKS_SOLD, ...FLASH_SOLD, 500, 750, 5000, 26_000, 30_000].sort(
  (a, b) => a - b,
);

/** The largest disk that is sold today, GB. */
export const LARGEST_DISK = DISKS_SOLD.at(-1) as number;
