import { formatBytes } from '../../quantity/formatBytes';
import { bayName } from '../../unit/bayName';
import { isWorking } from '../../unit/applyPool';
import type { DriveInUnit, Pool, UnitState } from '../../unit/state';
import { entryOf } from '../../value/entryOf';
import { demandOf, isFitting } from '../../upkeep/spareCoverage';
import type { PlanDraft } from './draftPlan';

/** A spare in the unit steps in by itself as soon as a member is out: where another drive is meant, it is let off before. */

/** The spares of a pool that would step in: they stand in a bay and work. */
export function sparesAtWork(unit: UnitState, { spares }: Pool): readonly DriveInUnit[] {
  return spares.flatMap((serial) => {
    const drive = entryOf(unit.drives, serial);
    return drive && isWorking(unit, serial) ? [drive] : [];
  });
}

/** The spare that stands in for a member: one that does not fit, or shows signs, stands in for nobody. */
export function spareFor(unit: UnitState, pool: Pool, member: DriveInUnit): DriveInUnit | undefined {
  const demand = demandOf(unit, member, pool);
  return sparesAtWork(unit, pool).find((spare) => isFitting(demand, spare));
}

function named(unit: UnitState, spares: readonly DriveInUnit[]): string {
  return spares.map(({ bay, serial }) => `${bayName(unit, bay)} (${serial})`).join(' and ');
}

/** Adds the step that lets the spares off; none where there is none. */
export function sparesAside({ then }: PlanDraft, unit: UnitState, pool: Pool): void {
  const spares = sparesAtWork(unit, pool);
  if (spares.length === 0) return;
  then({
    id: 'spares-aside',
    kind: 'act',
    title: `Tell its page that ${named(unit, spares)} ${spares.length === 1 ? 'is no spare' : 'are no spares'} of ${pool.name} for now`,
    why: 'A spare steps in by itself the moment a member is out: the rebuild would go onto it, and not onto the drive you fit. It is made the spare again afterwards.',
    caution: 'It stays in its bay. If the page offers to erase it or to add it to the pool, answer no.',
    does: spares.map(({ serial }) => ({ kind: 'release-spare' as const, pool: pool.id, serial })),
  });
}

/** Adds the step that makes them spares again; of one that no longer stands in for every member it is said. */
export function sparesBack({ then }: PlanDraft, unit: UnitState, pool: Pool, needs: number): void {
  const spares = sparesAtWork(unit, pool);
  if (spares.length === 0) return;
  const small = spares.filter(({ bytes }) => bytes < needs);
  then({
    id: 'spares-back',
    kind: 'act',
    title: `Make ${named(unit, spares)} the ${spares.length === 1 ? 'spare' : 'spares'} of ${pool.name} again, in its page`,
    why:
      small.length === 0
        ? 'Choose by serial. Until then nothing steps in.'
        : `${named(unit, small)} ${small.length === 1 ? 'stands' : 'stand'} in for no member of ${formatBytes(needs)}: replace ${small.length === 1 ? 'it' : 'them'} by one as large.`,
    maySkip: true,
    does: spares.flatMap(({ bay }) => (bay === null ? [] : [{ kind: 'assign-spare' as const, pool: pool.id, bay }])),
  });
}
