'use client';
import { useRouter } from 'next/navigation';
import { useWatch } from 'react-hook-form';
import type { ReactNode } from 'react';
import { factsOf, type Scheme } from '~/core/layout/scheme';
import {} from '~/core/plan/makers/commission/commission';
import type { CommissionWish } from '~/core/plan/makers/commission/commission';
import type { NewPoolWish } from '~/core/plan/makers/commission/newPool';
import { formatBytes } from '~/core/quantity/formatBytes';
import { shownAmount } from '~/core/quantity/shownAmount';
import { bayName } from '~/core/unit/bayName';
import { idleBays } from '~/core/unit/poolChanged';
import type { ThoughtRates } from '~/core/risk/thoughtRate';
import { driveInBay, freeBays, type UnitState } from '~/core/unit/state';
import type { DrawerDrive } from '~/core/upkeep/spareCoverage';
import { madeAtFirstStart, madeOtherwiseWords } from '~/core/platform/firstPowerOn';
import { isRefusal } from '~/core/value/refusal';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { Tick } from '~/web/parts/form/Tick';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { HowTraysComeOut } from '../HowTraysComeOut';
import { PlanAside } from '../PlanAsk';
import { usePlanTried } from '../usePlanTried';
import { DECIMAL } from '../decimal';
import {
  commissionKept,
  drivesTyped,
  layoutTyped,
  wishOf,
  type CommissionValues,
  type PoolJob,
} from './commissionValues';
import { DrivesByBay } from './DrivesByBay';
import { LayoutChoice } from './LayoutChoice';
import { firstOffered, useLayoutsOffered } from './useLayoutsOffered';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly drawers: readonly (DrawerDrive & { readonly model?: string })[];
  readonly rates: ThoughtRates;
  readonly job?: PoolJob;
}

const LINKS = [
  { value: '1', words: '1 Gbit/s Ethernet' },
  { value: '2.5', words: '2.5 Gbit/s Ethernet' },
  { value: '10', words: '10 Gbit/s Ethernet' },
  { value: 'cable', words: 'a drive on a cable' },
];

/** The drives that go in, the pool, the file system: beside it the plan as it would be. */
export function CommissionForm({ id, version, unit, drawers, rates, job = 'commission' }: Props): ReactNode {
  const router = useRouter();
  const empty = freeBays(unit);
  const { fileSystems } = unit.profile.software;
  const isFirst = job === 'commission';
  const free = idleBays(unit);
  const start: CommissionValues = {
    all: '',
    rows: empty.map((bay) => ({ bay, size: '', serial: '', model: '' })),
    layout: '',
    spares: '0',
    name: `Pool ${String(Object.keys(unit.pools).length + 1)}`,
    fileSystem: fileSystems.find(({ checksums }) => checksums)?.name ?? fileSystems[0]?.name ?? '',
    copy: '',
    copyOver: '1',
    // All that stands in a unit from its box goes in; in one that is in use only what is named.
    idle: isFirst ? free : [],
  };
  const asked = (wish: CommissionWish, { idle }: CommissionValues): CommissionWish | NewPoolWish =>
    isFirst ? wish : ({ ...wish, idle } as NewPoolWish);
  const countOf = (values: CommissionValues): number => drivesTyped(values.rows).drives.length + values.idle.length;
  // What the first power-on makes by count is what stands there as long as nobody chooses.
  const decidedOf = (count: number): Scheme | undefined =>
    isFirst ? madeAtFirstStart(unit.profile, count) : undefined;
  const sheet = useSheet<CommissionValues, 'POST /units/{id}/plans'>({
    start,
    keep: commissionKept(id, job),
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
      const { wish, faults } = wishOf(values, values.layout || (decidedOf(count) ?? first), count);
      if (Object.keys(faults).length > 0) return unread(faults);
      if (count === 0) return unread({ root: 'Write down a drive first: its size at least.' });
      return { id, body: { expectedVersion: version, job, wish: asked(wish, values) } };
    },
    done: ({ plan }) => router.push(`/units/${id}/plans/${plan}`),
  });
  const values = { ...start, ...useWatch({ control: sheet.form.control }) } as CommissionValues;
  const count = countOf(values);
  const decided = decidedOf(count);
  const { layouts, areStandIns } = useLayoutsOffered(unit, {
    empty,
    idle: values.idle,
    drives: drivesTyped(values.rows).drives,
    spares: Number(values.spares) || 0,
    rates,
  });
  const first = layouts ? firstOffered(layouts) : '';
  const usual = decided ?? first;
  const chosen = layoutTyped(values.layout || usual);
  const { wish, faults } = wishOf(values, values.layout || usual, count);
  const isNothing = !isFirst && count === 0;
  const tried = usePlanTried(job, id, isNothing || Object.keys(faults).length > 0 ? null : asked(wish, values));
  const copied = values.copy.trim() === '' ? 0 : shownAmount(values.copy, DECIMAL);
  const isHeld = tried.kind !== 'tried' || count === 0 || tried.dryRun.some((step) => step.kind === 'dry-stop');

  return (
    <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_380px]">
      <Sheet of={sheet} sends="Begin the plan" isHeld={isHeld}>
        <HowTraysComeOut id={id} version={version} unit={unit} />
        {!isFirst && free.length > 0 && (
          <IdleDrives
            unit={unit}
            bays={free}
            chosen={values.idle}
            onChosen={(idle) => sheet.form.setValue('idle', [...idle], { shouldDirty: true })}
          />
        )}
        <DrivesByBay unit={unit} drawers={drawers} />
        <section aria-label="Pool" className="grid gap-4 sm:grid-cols-2">
          <h2 className="text-lg sm:col-span-2">What they become</h2>
          <LayoutChoice
            layouts={layouts}
            areStandIns={areStandIns}
            first={usual}
            decided={
              decided &&
              ((chosen && madeOtherwiseWords(unit.profile, count, { ...chosen, spares: Number(values.spares) || 0 })) ??
                `${factsOf(decided).name}: this family makes it of ${count === 1 ? 'one drive' : `${String(count)} drives`} by itself, at the first power-on.`)
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
      <PlanAside unit={id} tried={tried} waiting="Say which drives go in: the plan is made as you write." />
    </div>
  );
}

/** Drives that stand in the unit and belong to nothing: those that are ticked go into the pool, and are erased. */
function IdleDrives({
  unit,
  bays,
  chosen,
  onChosen,
}: {
  readonly unit: UnitState;
  readonly bays: readonly string[];
  readonly chosen: readonly string[];
  readonly onChosen: (bays: readonly string[]) => void;
}): ReactNode {
  return (
    <section aria-label="Idle drives">
      <h2 className="text-lg">Idle drives that go in too</h2>
      <p className="text-muted">What is ticked is erased.</p>
      {bays.map((bay) => {
        const drive = driveInBay(unit, bay);
        return (
          <Tick
            key={bay}
            words={`${bayName(unit, bay)}: ${drive?.serial ?? ''}, ${formatBytes(drive?.bytes ?? 0)}`}
            isOn={chosen.includes(bay)}
            onChange={(isOn) => onChosen(isOn ? [...chosen, bay] : chosen.filter((one) => one !== bay))}
          />
        );
      })}
    </section>
  );
}
