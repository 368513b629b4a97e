/**
 * Speed of a drive after a share of its capacity has been passed, bytes/s: v(x) = v0 √(1 − x(1 − s²)), from constant
 * areal density (bits per area and turns per second stay the same while the track gets shorter). Flash has s = 1.
 *
 * @param outer v0, speed at the outer edge
 * @param innerOverOuter s, 0 < s ≤ 1
 * @param passed x, 0..1
 */
export function speedAt(outer: number, innerOverOuter: number, passed: number): number {
  return outer * Math.sqrt(1 - passed * (1 - innerOverOuter ** 2));
}

/** Average speed over the whole drive: v0 (1 + s) / 2, from the time 2C/(v0 (1 + s)) of a full pass over C bytes. */
export function averageSpeed(outer: number, innerOverOuter: number): number {
  return (outer * (1 + innerOverOuter)) / 2;
}
