'use client';
import { useRouter } from 'next/navigation';
import { useWatch } from 'react-hook-form';
import type { ReactNode } from 'react';
import { factsOf, type Scheme } from '~/core/layout/scheme';
import { madeAtFirstStart } from '~/core/plan/makers/commission/commissionPlan';
import { shownAmount } from '~/core/quantity/shownAmount';
import { baysOf, driveInBay, type UnitState } from '~/core/unit/state';
import type { DrawerDrive } from '~/core/upkeep/spareCoverage';
import { isRefusal } from '~/core/value/refusal';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { usePlanTried } from '../usePlanTried';
import { DECIMAL } from '../WaitPanel';
import { CommissionPreview } from './CommissionPreview';
import { commissionKept, drivesTyped, wishOf, type CommissionValues } from './commissionValues';
import { DrivesByBay } from './DrivesByBay';
import { LayoutChoice } from './LayoutChoice';
import { firstOffered, useLayoutsOffered } from './useLayoutsOffered';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly drawers: readonly (DrawerDrive & { readonly model?: string })[];
}

const LINKS = [
  { value: '1', words: '1 Gbit/s Ethernet' },
  { value: '2.5', words: '2.5 Gbit/s Ethernet' },
  { value: '10', words: '10 Gbit/s Ethernet' },
  { value: 'cable', words: 'a drive on a cable' },
];

/** The drives that go in, the pool, the file system: beside it the plan as it would be. */
export function CommissionForm({ id, version, unit, drawers }: Props): ReactNode {
  const router = useRouter();
  const empty = baysOf(unit).filter((bay) => !driveInBay(unit, bay));
  const { fileSystems } = unit.profile.software;
  const start: CommissionValues = {
    all: '',
    rows: empty.map((bay) => ({ bay, size: '', serial: '', model: '' })),
    layout: '',
    spares: '0',
    name: 'Pool 1',
    fileSystem: fileSystems.find(({ checksums }) => checksums)?.name ?? fileSystems[0]?.name ?? '',
    copy: '',
    copyOver: '1',
  };
  const countOf = (values: CommissionValues): number =>
    drivesTyped(values.rows).drives.length + Object.values(unit.drives).filter(({ bay }) => bay !== null).length;
  // Where the first power-on builds by count there is nothing to choose.
  const decidedOf = (count: number): Scheme | undefined =>
    Object.keys(unit.pools).length === 0 ? madeAtFirstStart(unit.profile, count) : undefined;
  const sheet = useSheet<CommissionValues, 'POST /units/{id}/plans'>({
    start,
    keep: commissionKept(id),
    sends: 'POST /units/{id}/plans',
    at: {
      name: '/wish/pool/name',
      spares: '/wish/pool/spares',
      layout: '/wish/pool',
      rows: '/wish/drives',
      copy: '/wish/copyBytes',
    },
    asks: (values) => {
      const count = countOf(values);
      const { wish, faults } = wishOf(values, decidedOf(count) ?? (values.layout || first), count);
      if (Object.keys(faults).length > 0) return unread(faults);
      if (count === 0) return unread({ root: 'Write down a drive first: its size at least.' });
      return { id, body: { expectedVersion: version, job: 'commission', wish } };
    },
    done: ({ plan }) => router.push(`/units/${id}/plans/${plan}`),
  });
  const values = { ...start, ...useWatch({ control: sheet.form.control }) } as CommissionValues;
  const count = countOf(values);
  const decided = decidedOf(count);
  const { layouts, areStandIns } = useLayoutsOffered(
    unit,
    empty,
    drivesTyped(values.rows).drives,
    Number(values.spares) || 0,
  );
  const first = layouts ? firstOffered(layouts) : '';
  const { wish, faults } = wishOf(values, decided ?? (values.layout || first), count);
  const tried = usePlanTried('commission', id, Object.keys(faults).length > 0 ? null : wish);
  const copied = values.copy.trim() === '' ? 0 : shownAmount(values.copy, DECIMAL);
  const isHeld = tried.kind !== 'tried' || count === 0 || tried.dryRun.some((step) => step.kind === 'dry-stop');

  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_380px]">
      <Sheet of={sheet} sends="Begin the plan" isHeld={isHeld}>
        <DrivesByBay unit={unit} drawers={drawers} />
        <section aria-label="Pool" className="grid gap-4 sm:grid-cols-2">
          <h2 className="text-lg sm:col-span-2">What they become</h2>
          <LayoutChoice
            layouts={layouts}
            areStandIns={areStandIns}
            first={first}
            decided={
              decided &&
              `${factsOf(decided).name}: this family makes it of ${count === 1 ? 'one drive' : `${String(count)} drives`} by itself, at the first power-on.`
            }
          />
          <TextField label="Name of the pool" name="name" maxLength={60} />
          <NumberField label="Spares" name="spares" min={0} max={1000} unit="drives" />
          <SelectField
            label="File system"
            name="fileSystem"
            options={fileSystems.map(({ name, checksums }) => ({
              value: name,
              words: name,
              detail: checksums
                ? 'Has checksums: it finds and repairs what has rotted.'
                : 'No checksums: what rots is not noticed.',
            }))}
          />
          <TextField
            label="To copy in"
            name="copy"
            placeholder="1.3 TB"
            hint={
              isRefusal(copied) ? (
                <span className="font-semibold text-thinned">{copied.sentence}</span>
              ) : (
                'Left empty when it starts bare'
              )
            }
          />
          {!isRefusal(copied) && copied > 0 && <SelectField label="It comes over" name="copyOver" options={LINKS} />}
        </section>
      </Sheet>
      <CommissionPreview tried={tried} />
    </div>
  );
}
