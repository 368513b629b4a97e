import { always, exponential, type SimulatedMember, type SimulatedPool } from './simulatedPool';

/** For tests and figures: a member without memory, new, that nothing is known of. */
export const memberWith = (of: Partial<SimulatedMember> = {}): SimulatedMember => ({
  serial: 'one',
  ageHours: 0,
  life: { shape: 1, scaleHours: 1e6 },
  sickness: 1,
  rebuild: exponential(12),
  unreadable: 0,
  ...of,
});

/** A pool of one band over all of them, for which drives are always at hand. */
export const poolWith = (
  members: readonly SimulatedMember[],
  redundancy: number,
  of: Partial<SimulatedPool> = {},
): SimulatedPool => ({
  kind: 'simulated-pool',
  members,
  bands: [{ members: members.map((_, i) => i), redundancy, shares: members.map(() => 1) }],
  lots: [],
  sharedLosses: [],
  repairs: 'parallel',
  spares: { inUnit: 0, inDrawer: 0 },
  notice: always(0),
  order: always(0),
  latent: { kind: 'at-any-reading' },
  ...of,
});
