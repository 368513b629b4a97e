import { tooSmallWords } from '../../drive/tooSmall';
import { planLayout } from '../../layout/planLayout';
import { apart } from '../../quantity/apart';
import { formatBytes } from '../../quantity/formatBytes';
import { driveInBay, type UnitState } from '../../unit/state';
import type { Intention, PlanStep } from '../plan';
import type { Interlock } from './interlock';

/** Drives that go in for a pool that is made later: what their sizes make of it is told while each is still in hand. */

type Towards = Extract<Intention, { kind: 'towards-pool' }>;

/** The pool the drives of a step are for; `undefined` where they are for none. */
export function towardsOf({ does }: Pick<PlanStep, 'does'>): Towards | undefined {
  return does.find((one): one is Towards => one.kind === 'towards-pool');
}

/**
 * What the drive that was just fitted makes of the pool that was planned, with those that are in as they are and the rest
 * as planned. Nothing where the pool holds as much as planned.
 *
 * @param after the unit with the drive in its bay
 */
export function interlocksOfTowards(after: UnitState, step: PlanStep, fitted: string): Interlock[] {
  const towards = towardsOf(step);
  const planned = towards?.drives.find(({ bay }) => bay === fitted);
  const drive = driveInBay(after, fitted);
  if (!towards || !planned || !drive || drive.bytes >= planned.bytes) return [];
  const { name, scheme, groupWidth, spares, drives } = towards;
  const stop = (sentence: string, mayOverride: boolean): Interlock[] => [
    {
      kind: 'interlock',
      code: 'too-small',
      sentence,
      back: `Put it aside, and take one as large as was planned.${mayOverride ? ' Or stop this plan, and make one with the drives that are there: it says what they give.' : ''}`,
      serial: drive.serial,
      mayOverride,
    },
  ];
  const madeOf = (of: readonly Towards['drives'][number][]) =>
    planLayout(after.profile, scheme, [...of], spares, groupWidth);
  const meant = madeOf(drives);
  const real = madeOf(
    drives.map((one) => {
      const there = driveInBay(after, one.bay);
      return there ? { ...one, bytes: there.bytes } : one;
    }),
  );
  const size = drive.label ?? formatBytes(drive.bytes);
  if (!real.legal)
    return stop(
      `With ${drive.serial} ${name} cannot be made as planned. ${tooSmallWords(size, drive.bytes, planned.bytes)} ${real.reasons.join(' ')}`,
      false,
    );
  if (real.usableBytes >= meant.usableBytes) return [];
  const [less, more] = apart(real.usableBytes, meant.usableBytes);
  return stop(
    `${drive.serial} is ${size}, not the ${formatBytes(planned.bytes)} that was planned here: ${name} would hold ${less}, not ${more}.`,
    true,
  );
}
