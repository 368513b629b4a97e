'use client';
import { useFormContext, useWatch } from 'react-hook-form';
import type { ReactNode } from 'react';
import { isSameSerial } from '~/core/drive/serial';
import { formatBytes } from '~/core/quantity/formatBytes';
import { bayName, bayShort } from '~/core/unit/bayName';
import type { UnitState } from '~/core/unit/state';
import type { DrawerDrive } from '~/core/upkeep/spareCoverage';
import { Button } from '~/web/parts/form/Button';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Select } from '~/web/parts/form/Select';
import { CameraButton } from '~/web/parts/scan/CameraButton';
import type { CommissionValues, DriveTyped } from './commissionValues';

interface Props {
  readonly unit: UnitState;
  readonly drawers: readonly (DrawerDrive & { readonly model?: string })[];
}

const HEADS = ['Bay', 'Size', 'Serial, when you have it', 'Model', 'From a drawer'];

/** The drives that go in, bay by bay: typed, scanned, or taken out of a drawer. */
export function DrivesByBay({ unit, drawers }: Props): ReactNode {
  const { register, setValue, getFieldState, formState } = useFormContext<CommissionValues>();
  const [rows, all] = useWatch<CommissionValues, ['rows', 'all']>({ name: ['rows', 'all'] });
  const change = (to: readonly DriveTyped[]): void => setValue('rows', [...to], { shouldDirty: true });
  const changeOne = (at: number, part: Partial<DriveTyped>): void =>
    change(rows.map((row, i) => (i === at ? { ...row, ...part } : row)));
  /** Into the first bay with a drive that has none yet; the same label twice is one drive. */
  const scanned = (serial: string): void => {
    if (rows.some((row) => isSameSerial(row.serial, serial))) return;
    const bare = (row: DriveTyped): boolean => row.serial.trim() === '';
    const sized = rows.findIndex((row) => bare(row) && row.size.trim() !== '');
    const at = sized < 0 ? rows.findIndex(bare) : sized;
    if (at >= 0) changeOne(at, { serial });
  };
  // One that was sick is a new drive to nobody.
  const free = drawers.filter(
    ({ serial, sick }) => sick === undefined && !rows.some((row) => isSameSerial(row.serial, serial)),
  );
  return (
    <section aria-label="Drives">
      <h2 className="mb-2 text-lg">Drives that go in</h2>
      <div className="mb-3 flex max-w-[560px] flex-wrap items-end gap-2">
        <TextField label="The same in every empty bay" name="all" placeholder="8 TB" />
        <Button className="mb-1" onClick={() => change(rows.map((row) => ({ ...row, size: all })))}>
          Fill in
        </Button>
        <CameraButton words="Scan the next serial" onSerial={scanned} />
      </div>
      <div className="relative max-h-[420px] overflow-auto" tabIndex={0} role="region" aria-label="Drives by bay">
        <table className="w-full border border-line bg-surface">
          <thead className="text-left text-sm text-muted">
            <tr>
              {HEADS.map((head) => (
                <th key={head} scope="col" className="px-2 py-1 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ bay }, i) => {
              const { error } = getFieldState(`rows.${i}.size`, formState);
              return (
                <tr key={bay} className="border-t border-line align-top">
                  <th scope="row" className="px-2 py-2 font-semibold whitespace-nowrap">
                    {bayShort(unit, bay)}
                  </th>
                  <td className="px-2 py-1">
                    <input
                      className="field w-28"
                      aria-label={`Size, ${bayName(unit, bay)}`}
                      aria-invalid={error !== undefined}
                      autoComplete="off"
                      {...register(`rows.${i}.size`)}
                    />
                    {error?.message !== undefined && (
                      <p className="mt-1 text-sm font-semibold text-thinned">{error.message}</p>
                    )}
                  </td>
                  <td className="px-2 py-1">
                    <input
                      className="field w-40 font-mono"
                      aria-label={`Serial, ${bayName(unit, bay)}`}
                      autoComplete="off"
                      {...register(`rows.${i}.serial`)}
                    />
                  </td>
                  <td className="px-2 py-1">
                    <input
                      className="field w-36"
                      aria-label={`Model, ${bayName(unit, bay)}`}
                      autoComplete="off"
                      {...register(`rows.${i}.model`)}
                    />
                  </td>
                  <td className="px-2 py-1">
                    {free.length > 0 && (
                      <Select
                        className="w-36"
                        label={`From a drawer, ${bayName(unit, bay)}`}
                        value=""
                        options={free.map(({ serial, bytes, place }) => ({
                          value: serial,
                          words: `${formatBytes(bytes)}, ${serial}`,
                          detail: `${place.site}, ${place.room}`,
                        }))}
                        onValue={(serial) => {
                          const drive = free.find((one) => one.serial === serial);
                          if (drive)
                            changeOne(i, {
                              size: `${String(drive.bytes)} B`,
                              serial: drive.serial,
                              model: drive.model ?? '',
                            });
                        }}
                      />
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
