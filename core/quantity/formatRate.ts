/** A rate as people read it: "110 MB/s", "1.2 GB/s". Decimal units (IEC 80000-13). */
export function formatRate(bytesPerSecond: number): string {
  return bytesPerSecond >= 1e9
    ? `${(bytesPerSecond / 1e9).toFixed(1)} GB/s`
    : `${(bytesPerSecond / 1e6).toFixed(0)} MB/s`;
}
