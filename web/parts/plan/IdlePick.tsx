'use client';
import type { ReactNode } from 'react';
import { bayName } from '~/core/unit/bayName';
import { driveInBay, type UnitState } from '~/core/unit/state';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Tick } from '~/web/parts/form/Tick';
import { Serial } from '~/web/parts/unit/Serial';

interface Props {
  readonly unit: UnitState;
  /** Bays of idle drives that show nothing. */
  readonly idle: readonly string[];
  readonly chosen: readonly string[];
  readonly onChosen: (bays: readonly string[]) => void;
}

/** Drives that stand in the unit and that nothing has: taken before anything is bought. */
export function IdlePick({ unit, idle, chosen, onChosen }: Props): ReactNode {
  if (idle.length === 0) return null;
  return (
    <fieldset data-idle={idle.length}>
      <legend className="mb-1 font-semibold">
        {idle.length === 1
          ? 'One drive stands idle in it: take it?'
          : `${String(idle.length)} drives stand idle in it: take which?`}
      </legend>
      {idle.map((bay) => {
        const drive = driveInBay(unit, bay);
        return drive ? (
          <Tick
            key={bay}
            name="idle"
            value={bay}
            words={
              <>
                {bayName(unit, bay)}, {formatBytes(drive.bytes)}, <Serial of={drive.serial} />
              </>
            }
            isOn={chosen.includes(bay)}
            onChange={(isOn) => onChosen(idle.filter((one) => (one === bay ? isOn : chosen.includes(one))))}
          />
        ) : null;
      })}
    </fieldset>
  );
}
