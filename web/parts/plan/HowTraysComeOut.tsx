'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { ofFamily } from '~/web/parts/unit/aboutWords';
import { TRAYS_WORDS } from '~/web/parts/unit/traysWords';

const WAYS = ['running', 'off', 'case-opened'] as const;

/** Asked once, at the first plan of a unit: its steps, the power and the screws follow from it. */
export function HowTraysComeOut({
  id,
  version,
  unit,
}: {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
}): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  if (unit.details.driveChange != null) return null;
  const usual = ofFamily(unit).driveChange;
  const say = async (driveChange: (typeof WAYS)[number]): Promise<void> => {
    const body = { expectedVersion: version, event: { kind: 'unit-described' as const, details: { driveChange } } };
    if (!(await run('POST /units/{id}/events', { id, body }))) return;
    tell(`Drives of ${unit.name} are changed ${TRAYS_WORDS[driveChange]}.`);
    router.refresh();
  };
  return (
    <div data-trays-asked>
      <Notice title={`How do trays come out of ${unit.name}?`}>
        <p>
          By its family {TRAYS_WORDS[usual]}, and the plan goes by that as long as nobody says otherwise. Look at it: a
          tray with a handle and a lamp, or a case with screws?
        </p>
        {fault && <p className="mt-1 font-semibold text-thinned">{fault.sentence}</p>}
        <p className="mt-2 flex flex-wrap gap-2">
          {WAYS.map((way) => (
            <Button key={way} className="min-h-11" disabled={busy} onClick={() => void say(way)}>
              {TRAYS_WORDS[way][0]?.toUpperCase()}
              {TRAYS_WORDS[way].slice(1)}
            </Button>
          ))}
        </p>
      </Notice>
    </div>
  );
}
