'use client';
import { useRef, type KeyboardEvent, type ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import { driveInBay, poolOfDrive, type DriveInUnit, type UnitState } from '~/core/unit/state';
import { CONDITION_WORDS } from './words';

/** Bays in a row of a rack unit, as seen from the front. */
const FLAT_COLUMNS = 4;

interface Props {
  readonly unit: UnitState;
  /** With it, bays are buttons that arrow keys walk. */
  readonly onBay?: (bay: string) => void;
  readonly chosen?: string | undefined;
  readonly size?: 'shelf' | 'page';
}

/** A unit from the front, every enclosure with every bay: upright trays or flat ones, as its family has them. */
export function UnitFront({ unit, onBay, chosen, size = 'shelf' }: Props): ReactNode {
  const root = useRef<HTMLDivElement>(null);
  const isFlat = unit.profile.bays.trays === 'flat';
  const columns = isFlat ? FLAT_COLUMNS : Infinity;

  const walk = (event: KeyboardEvent): void => {
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: isFlat ? columns : 0, ArrowUp: isFlat ? -columns : 0 }[event.key];
    if (!step) return;
    const bays = [...(root.current?.querySelectorAll<HTMLButtonElement>('button[data-bay]') ?? [])];
    const next = bays[bays.indexOf(document.activeElement as HTMLButtonElement) + step];
    next?.focus();
    event.preventDefault();
  };

  return (
    <div ref={root} className="flex flex-wrap items-end gap-3" {...(onBay ? { onKeyDown: walk, role: 'group', 'aria-label': `Bays of ${unit.name}` } : {})}>
      {unit.enclosures.map((enclosure) => (
        <div key={enclosure.name} className="bg-case p-1.5">
          <div className="grid gap-1" style={{ gridTemplateColumns: `repeat(${String(Math.min(columns, enclosure.bays.length))}, auto)` }}>
            {enclosure.bays.map((bay) => (
              <Bay key={bay} bay={bay} unit={unit} isFlat={isFlat} size={size} onBay={onBay} isChosen={bay === chosen} />
            ))}
          </div>
        </div>
      ))}
    </div>
  );
}

interface BayProps {
  readonly bay: string;
  readonly unit: UnitState;
  readonly isFlat: boolean;
  readonly size: 'shelf' | 'page';
  readonly onBay: ((bay: string) => void) | undefined;
  readonly isChosen: boolean;
}

function Bay({ bay, unit, isFlat, size, onBay, isChosen }: BayProps): ReactNode {
  const drive = driveInBay(unit, bay);
  const job = drive && Object.values(unit.jobs).find(({ task, onto }) => task === 'rebuild' && onto === drive.serial);
  const pool = drive && poolOfDrive(unit, drive.serial);
  const isSpare = drive !== undefined && pool?.spares.includes(drive.serial) === true && !job;
  const shape = isFlat
    ? size === 'page'
      ? 'h-9 w-24 flex-row px-1.5 max-sm:h-11 max-sm:w-[74px]'
      : 'h-[22px] w-[54px] flex-row px-1'
    : size === 'page'
      ? 'h-32 w-16 flex-col max-sm:h-24 max-sm:w-[38px]'
      : 'h-[76px] w-[36px] flex-col';
  const look = !drive
    ? 'border-dashed border-case-line text-on-side-muted'
    : drive.condition === 'failed' || drive.condition === 'out-of-service'
      ? 'border-thinned bg-tray hatched text-tray-ink border-2'
      : drive.condition === 'suspected'
        ? 'border-watch bg-watch-ground text-tray-ink border-2'
        : isSpare
          ? 'border-on-side text-on-side'
          : 'border-transparent bg-tray text-tray-ink';
  const inside = (
    <>
      {job && <span className="absolute inset-x-0 bottom-0 bg-[var(--filling)]" style={{ height: `${String(job.percent)}%` }} aria-hidden />}
      <span className={`relative ${size === 'page' ? 'text-sm max-sm:text-xs' : 'text-xs'} ${drive && !isSpare && !job ? 'text-tray-muted' : ''}`}>{bay}</span>
      <span
        className={`relative font-bold ${isFlat ? (size === 'page' ? 'text-base' : 'text-xs') : size === 'page' ? 'text-xl max-sm:text-base' : 'text-base'}`}
      >
        {drive ? terabytes(drive) : ''}
      </span>
      {(!isFlat || size === 'page') && (
        <span className={`relative font-mono ${size === 'page' ? 'text-sm max-sm:text-xs' : 'text-xs'} ${drive && !isSpare && !job ? 'text-tray-muted' : ''}`}>
          {drive?.serial.slice(-4) ?? ''}
        </span>
      )}
    </>
  );
  const box = `relative flex items-center justify-between overflow-hidden border px-0.5 py-0.5 ${shape} ${look} ${isChosen ? 'outline-2 outline-offset-1 outline-[var(--board-from)]' : ''}`;
  const words = describe(bay, drive, isSpare, job?.percent);
  if (!onBay) {
    return (
      <div className={box} title={words}>
        {inside}
      </div>
    );
  }
  return (
    <button type="button" data-bay={bay} aria-pressed={isChosen} className={box} onClick={() => onBay(bay)}>
      <span className={`absolute inset-0 flex items-center justify-between px-1 py-0.5 ${isFlat ? 'flex-row' : 'flex-col'}`} aria-hidden>
        {inside}
      </span>
      <span className="sr-only">{words}</span>
    </button>
  );
}

function terabytes({ bytes }: DriveInUnit): string {
  return formatBytes(bytes).replace(/ TB$/, '');
}

function describe(bay: string, drive: DriveInUnit | undefined, isSpare: boolean, percent: number | undefined): string {
  if (!drive) return `Bay ${bay}, empty`;
  const role = isSpare ? ', spare' : percent === undefined ? '' : `, rebuilding, ${String(percent)} %`;
  return `Bay ${bay}, ${formatBytes(drive.bytes)}, ${drive.serial}, ${CONDITION_WORDS[drive.condition]}${role}`;
}
