'use client';
import { bayName, BayName } from '~/core/unit/bayName';
import { useState, type ReactNode } from 'react';
import type { LampMeaning } from '~/core/upkeep/decodeLamp';
import { baysOf, type UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { useRecord } from '~/web/parts/record/useRecord';
import { Moment } from './Moment';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly lamps: readonly LampMeaning[];
  readonly mayRecord: boolean;
}

/** Pick what is seen; read what it means in this family, what it means now, how to silence it; have it recorded. */
export function LampDecoder({ id, version, unit, lamps, mayRecord }: Props): ReactNode {
  const recorder = useRecord();
  const [chosen, setChosen] = useState<string | null>(null);
  const [bay, setBay] = useState('');
  return (
    <div className="grid gap-3">
      {unit.signs.length > 0 && (
        <Notice title="Seen and not settled yet">
          {unit.signs.map(({ note, since, bay: at }) => (
            <p key={note + (at ?? '')}>
              {at !== undefined && `${BayName(unit, at)}: `}
              {note}, <Moment at={since} relative />
            </p>
          ))}
          {mayRecord && (
            <Button
              className="mt-2"
              disabled={recorder.busy}
              onClick={() => void recorder.record({ unit: id, version, event: { kind: 'signs-cleared' }, sentence: 'settled' })}
            >
              All of it is settled
            </Button>
          )}
        </Notice>
      )}
      {recorder.fault !== null && <Notice grave>{recorder.fault}</Notice>}
      {lamps.length === 0 && <p className="text-muted">Nobody has written this family’s lamps into its profile yet. The maker’s manual has them.</p>}
      <ul className="grid gap-2">
        {lamps.map(({ see, means, now, isExpected, silence }) => (
          <li key={see} className="border border-line bg-surface">
            <button
              type="button"
              aria-expanded={chosen === see}
              className={`min-h-11 w-full px-4 py-2 text-left text-lg ${chosen === see ? 'bg-chosen font-semibold' : ''}`}
              onClick={() => setChosen(chosen === see ? null : see)}
            >
              {see}
            </button>
            {chosen === see && (
              <div className="grid gap-3 border-t border-line px-4 py-3">
                <p>
                  <span className="block text-sm text-muted">On this family</span>
                  {means}
                </p>
                <p className={isExpected ? '' : 'font-semibold'}>
                  <span className="block text-sm font-normal text-muted">Now</span>
                  {now}
                </p>
                <p>
                  <span className="block text-sm text-muted">To silence it</span>
                  {silence}
                </p>
                {mayRecord && (
                  <div className="flex flex-wrap items-end gap-2">
                    <label>
                      <span className="mb-1 block text-sm text-muted">At bay</span>
                      <select className="field" value={bay} onChange={(event) => setBay(event.target.value)}>
                        <option value="">none in particular</option>
                        {baysOf(unit).map((one) => (
                          <option key={one} value={one}>
                            {bayName(unit, one)}
                          </option>
                        ))}
                      </select>
                    </label>
                    <Button
                      look="main"
                      disabled={recorder.busy}
                      onClick={() =>
                        void recorder.record({
                          unit: id,
                          version,
                          event: { kind: 'sign-noted', note: see, lamp: see, ...(bay === '' ? {} : { bay }) },
                          sentence: see.toLowerCase(),
                        })
                      }
                    >
                      Record that it is seen
                    </Button>
                  </div>
                )}
              </div>
            )}
          </li>
        ))}
      </ul>
      <p className="text-sm text-muted">
        A beep is rarely a catastrophe: do not switch off or restart a unit because of it. The maker’s manual comes before this page.
      </p>
    </div>
  );
}
