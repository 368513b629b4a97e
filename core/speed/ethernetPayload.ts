/**
 * Bytes a second of payload that a network port carries: 1,448 of every 1,538 bytes on the wire with TCP timestamps,
 * 117.7 MB/s on gigabit. Source: IEEE 802.3 (frame overhead), RFC 7323 (timestamps).
 *
 * @param gigabits nominal speed of the port in Gbit/s
 */
export function ethernetPayload(gigabits: number): number {
  return ((gigabits * 1e9) / 8) * (1448 / 1538);
}
