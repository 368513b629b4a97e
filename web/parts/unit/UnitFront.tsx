'use client';
import { useRef, type KeyboardEvent, type ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { BayInFront, UnitInFront } from '~/core/unit/card';
import { CONDITION_WORDS } from '~/core/unit/standingWords';

/** Bays in a row of a rack unit, as seen from the front. */
const FLAT_COLUMNS = 4;

interface Props {
  readonly unit: UnitInFront;
  /** With it, bays are buttons that arrow keys walk. */
  readonly onBay?: (bay: string) => void;
  readonly chosen?: string | undefined;
  readonly size?: 'shelf' | 'page';
}

/** A unit from the front, every enclosure with every bay: upright trays or flat ones, as its family has them. */
export function UnitFront({ unit, onBay, chosen, size = 'shelf' }: Props): ReactNode {
  const root = useRef<HTMLDivElement>(null);
  const isFlat = unit.trays === 'flat';
  const columns = isFlat ? FLAT_COLUMNS : Infinity;

  const walk = (event: KeyboardEvent): void => {
    const step = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: isFlat ? columns : 0, ArrowUp: isFlat ? -columns : 0 }[
      event.key
    ];
    if (!step) return;
    const bays = [...(root.current?.querySelectorAll<HTMLButtonElement>('button[data-bay]') ?? [])];
    const next = bays[bays.indexOf(document.activeElement as HTMLButtonElement) + step];
    next?.focus();
    event.preventDefault();
  };

  return (
    <div
      ref={root}
      className="flex flex-wrap items-end gap-3"
      {...(onBay ? { onKeyDown: walk, role: 'group', 'aria-label': `Bays of ${unit.name}` } : {})}
    >
      {unit.enclosures.map((enclosure) => (
        <div
          key={enclosure.name}
          className={`bg-case p-1.5 ${enclosure.isAway ? 'opacity-50' : ''}`}
          title={enclosure.isAway ? `${enclosure.name} has dropped out` : undefined}
        >
          {size === 'page' && unit.enclosures.length > 1 && (
            <div className="mb-1 flex justify-between text-xs text-on-side">
              <span>{enclosure.name}</span>
              <span>
                {enclosure.isAway
                  ? 'dropped out'
                  : enclosure.dial === undefined
                    ? ''
                    : `dial ${String(enclosure.dial)}`}
              </span>
            </div>
          )}
          <div
            className="grid gap-1"
            style={{ gridTemplateColumns: `repeat(${String(Math.min(columns, enclosure.bays.length))}, auto)` }}
          >
            {enclosure.bays.map((bay) => (
              <Bay key={bay.bay} of={bay} isFlat={isFlat} size={size} onBay={onBay} isChosen={bay.bay === chosen} />
            ))}
          </div>
          {enclosure.slots && (size === 'page' || enclosure.slots.some(({ serial }) => serial !== undefined)) && (
            <div className="mt-1.5 flex flex-wrap items-center gap-1 border-t border-case-line pt-1.5" data-cache-slots>
              <span className="mr-1 text-xs text-on-side-muted">cache</span>
              {enclosure.slots.map((slot) => (
                <Bay key={slot.bay} of={slot} isFlat size={size} onBay={onBay} isChosen={slot.bay === chosen} />
              ))}
            </div>
          )}
        </div>
      ))}
    </div>
  );
}

interface BayProps {
  readonly of: BayInFront;
  readonly isFlat: boolean;
  readonly size: 'shelf' | 'page';
  readonly onBay: ((bay: string) => void) | undefined;
  readonly isChosen: boolean;
}

function Bay({ of, isFlat, size, onBay, isChosen }: BayProps): ReactNode {
  const { bay, tray, serial, bytes, condition, isSpare = false, percent } = of;
  const isEmpty = serial === undefined;
  const isRebuilding = percent !== undefined;
  const shape = isFlat
    ? size === 'page'
      ? 'h-9 w-24 flex-row px-1.5 max-sm:h-11 max-sm:w-[74px]'
      : 'h-[22px] w-[54px] flex-row px-1'
    : size === 'page'
      ? 'h-32 w-16 flex-col max-sm:h-24 max-sm:w-[38px]'
      : 'h-[76px] w-[36px] flex-col';
  const look = isEmpty
    ? 'border-dashed border-case-line text-on-side-muted'
    : condition === 'failed' || condition === 'out-of-service'
      ? 'border-thinned bg-tray hatched text-tray-ink border-2'
      : condition === 'suspected'
        ? 'border-watch bg-watch-ground text-tray-ink border-2'
        : isSpare
          ? 'border-on-side text-on-side'
          : 'border-transparent bg-tray text-tray-ink';
  const inside = (
    <>
      {isRebuilding && (
        <span
          className="absolute inset-x-0 bottom-0 bg-[var(--filling)]"
          style={{ height: `${String(percent)}%` }}
          aria-hidden
        />
      )}
      <span
        className={`relative ${size === 'page' ? 'text-sm max-sm:text-xs' : 'text-xs'} ${!isEmpty && !isSpare && !isRebuilding ? 'text-tray-muted' : ''}`}
      >
        {tray}
      </span>
      <span
        className={`relative font-bold ${isFlat ? (size === 'page' ? 'text-base' : 'text-xs') : size === 'page' ? 'text-xl max-sm:text-base' : 'text-base'}`}
      >
        {bytes === undefined ? '' : formatBytes(bytes).replace(/ TB$/, '')}
      </span>
      {(!isFlat || size === 'page') && (
        <span
          className={`relative font-mono ${size === 'page' ? 'text-sm max-sm:text-xs' : 'text-xs'} ${!isEmpty && !isSpare && !isRebuilding ? 'text-tray-muted' : ''}`}
        >
          {serial?.slice(-4) ?? ''}
        </span>
      )}
    </>
  );
  const box = `relative flex items-center justify-between overflow-hidden border px-0.5 py-0.5 ${shape} ${look} ${isChosen ? 'outline-2 outline-offset-1 outline-[var(--board-from)]' : ''}`;
  const words = describe(of);
  if (!onBay) {
    return (
      <div className={box} title={words}>
        {inside}
      </div>
    );
  }
  return (
    <button type="button" data-bay={bay} aria-pressed={isChosen} className={box} onClick={() => onBay(bay)}>
      <span
        className={`absolute inset-0 flex items-center justify-between px-1 py-0.5 ${isFlat ? 'flex-row' : 'flex-col'}`}
        aria-hidden
      >
        {inside}
      </span>
      <span className="sr-only">{words}</span>
    </button>
  );
}

function describe({ name, serial, bytes = 0, condition = 'well', isSpare, percent }: BayInFront): string {
  if (serial === undefined) return `${name}, empty`;
  const role = isSpare === true ? ', spare' : percent === undefined ? '' : `, rebuilding, ${String(percent)} %`;
  return `${name}, ${formatBytes(bytes)}, ${serial}, ${CONDITION_WORDS[condition]}${role}`;
}
