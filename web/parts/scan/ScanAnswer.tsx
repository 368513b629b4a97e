'use client';
import type { ReactNode } from 'react';
import type { ScanJudgement } from '~/core/scan/judgeScan';
import { bayName } from '~/core/unit/bayName';
import type { UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Sentence } from '~/web/parts/frame/Sentence';
import { Serial } from '~/web/parts/unit/Serial';

interface Props {
  readonly of: ScanJudgement;
  readonly unit: Pick<UnitState, 'enclosures'>;
  /** How many were read after it and wait. */
  readonly waiting: number;
  /** A person has to say what becomes of it. */
  readonly isHeld: boolean;
  readonly onAside: () => void;
  readonly onTake: (bay: string, instead?: string) => void;
  readonly onIs: (serial: string | null) => void;
  /** The way past a stop that may be passed. */
  readonly overrideWords?: string;
}

/** What a scan is, large, where it was read: with what can be done with it. */
export function ScanAnswer({
  of,
  unit,
  waiting,
  isHeld,
  onAside,
  onTake,
  onIs,
  overrideWords = 'Keep it in the list: an owner decides',
}: Props): ReactNode {
  const { verdict, stop, alike, insteadOf = [], bay } = of;
  const look = LOOKS[stop ? 'grave' : lookOf(of)];
  return (
    <div role={isHeld ? 'alert' : 'status'} data-said data-verdict={verdict} className={`border-2 px-4 py-3 ${look}`}>
      <p className="text-sm font-semibold">{headOf(of, unit)}</p>
      <p className="text-[20px] leading-snug font-semibold">
        <Sentence of={of.sentence} />
      </p>
      {stop !== undefined && stop.back !== '' && (
        <p className="mt-1 text-lg">
          <Sentence of={stop.back} />
        </p>
      )}
      {isHeld && (
        <div className="mt-3 flex flex-wrap gap-2">
          {alike?.map((serial) => (
            <Button key={serial} className="min-h-11" onClick={() => onIs(serial)}>
              It is <Serial of={serial} />
            </Button>
          ))}
          {alike && (
            <Button className="min-h-11" onClick={() => onIs(null)}>
              None of these: it reads as typed
            </Button>
          )}
          {insteadOf.map((one) => (
            <Button key={one.bay} className="min-h-11" onClick={() => onTake(one.bay, one.expects)}>
              Instead of {one.expects === undefined ? 'any' : <Serial of={one.expects} />}, {bayName(unit, one.bay)}
            </Button>
          ))}
          {stop?.mayOverride === true && bay !== undefined && (
            <Button look="grave" className="min-h-11" onClick={() => onTake(bay)}>
              {overrideWords}
            </Button>
          )}
          <Button look={verdict === 'other-unit' ? 'main' : 'plain'} className="min-h-11" onClick={onAside}>
            {verdict === 'other-unit' && bay !== undefined
              ? 'It is back in its bay'
              : verdict === 'alike'
                ? 'Read it again'
                : 'It is put aside'}
          </Button>
        </div>
      )}
      {waiting > 0 && isHeld && (
        <p className="mt-2 font-semibold">
          {waiting === 1
            ? 'One more was read after it and waits.'
            : `${String(waiting)} more were read after it and wait.`}{' '}
          Push none of them in before this one is settled.
        </p>
      )}
    </div>
  );
}

const LOOKS = {
  right: 'border-ink bg-surface',
  ask: 'border-watch bg-watch-ground',
  grave: 'border-thinned bg-thinned-ground',
} as const;

function lookOf({ verdict, insteadOf }: ScanJudgement): keyof typeof LOOKS {
  if (verdict === 'here') return 'right';
  if (verdict === 'other-unit') return 'grave';
  return (verdict === 'stored' || verdict === 'unknown') && !insteadOf ? 'right' : 'ask';
}

function headOf({ verdict, bay, insteadOf, stop }: ScanJudgement, unit: Props['unit']): string {
  if (stop) return 'Not this one';
  switch (verdict) {
    case 'here':
      return `✓ Right: ${bayName(unit, bay)}`;
    case 'other-bay':
      return `Another bay: ${bayName(unit, bay)}`;
    case 'already-in':
      return 'Already in';
    case 'other-unit':
      return 'Another unit’s drive';
    case 'stored':
      return insteadOf ? 'Not planned' : `From stock: ${bayName(unit, bay)}`;
    case 'alike':
      return 'Is it …?';
    case 'unknown':
      return insteadOf || bay === undefined ? 'Not planned' : `New: ${bayName(unit, bay)}`;
  }
}
