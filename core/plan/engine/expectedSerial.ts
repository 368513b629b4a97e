import { driveInBay, type UnitState } from '../../unit/state';
import type { PlanStep } from '../plan';

/** The serial a step is about: as planned; or, bought unseen, that of the drive that was fitted since. */
export function expectedSerial(unit: UnitState, { asks, does }: PlanStep): string | undefined {
  if (asks.kind !== 'serial' || asks.expects !== undefined) return asks.kind === 'serial' ? asks.expects : undefined;
  const repair = does.find((one) => one.kind === 'start-rebuild');
  return repair?.kind === 'start-rebuild' ? driveInBay(unit, repair.bay)?.serial : undefined;
}
