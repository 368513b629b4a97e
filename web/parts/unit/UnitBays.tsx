'use client';
import { bayName, BayName } from '~/core/unit/bayName';
import { roleWords } from '~/core/unit/roleOf';
import { useRouter } from 'next/navigation';
import type { ShownWatch } from '~/service/watch/watchOperations';
import Link from '~/web/parts/frame/Link';
import { Lamp } from '~/web/parts/watch/Lamp';
import { useState, type ReactNode } from 'react';
import { formatBytes, formatExactBytes } from '~/core/quantity/formatBytes';
import { frontOf } from '~/core/unit/card';
import { CONDITION_WORDS } from '~/core/unit/standingWords';
import { driveInBay, type UnitState } from '~/core/unit/state';
import { BayActions } from './BayActions';
import { Moment } from './Moment';
import { Row } from './Row';
import { Serial } from './Serial';
import { UnitFront } from './UnitFront';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly initial?: string | undefined;
  readonly currency: string;
  readonly mayRecord: boolean;
  /** Where the unit is asked how it is: its locate lights. */
  readonly lights?: ShownWatch['lights'];
}

/** The unit's front with bays to walk, what stands in the chosen one, and what can be said of it. */
export function UnitBays({ id, version, unit, initial, currency, mayRecord, lights = [] }: Props): ReactNode {
  const router = useRouter();
  const [bay, setBay] = useState(initial ?? mostTroubled(unit));
  const drive = driveInBay(unit, bay);
  return (
    <div className="flex flex-wrap items-start gap-6">
      <div className="relative max-w-full overflow-x-auto p-1">
        <UnitFront unit={frontOf(unit)} size="page" onBay={setBay} chosen={bay} />
        <div className="board h-[9px]" />
      </div>
      <section aria-label={BayName(unit, bay)} aria-live="polite" className="min-w-[260px] flex-1">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <h2 className="text-lg">{BayName(unit, bay)}</h2>
          {lights.some((light) => light.bay === bay) && (
            <span className="no-print">
              {!mayRecord && 'Its light is '}
              <Lamp
                id={id}
                bay={bay}
                where={bayName(unit, bay)}
                lights={lights}
                maySwitch={mayRecord}
                onDone={() => router.refresh()}
              />
            </span>
          )}
        </div>
        {!drive ? (
          <p className="mt-1 text-muted">Empty.</p>
        ) : (
          <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
            <Row name="Serial">
              <Link href={`/drives/${encodeURIComponent(drive.serial)}`} className="text-lg underline decoration-line">
                <Serial of={drive.serial} />
              </Link>
            </Row>
            <Row name="Holds">
              {formatBytes(drive.bytes)}, <span className="font-mono">{formatExactBytes(drive.bytes)}</span> bytes
              {drive.basis !== 'exact' && ', by its label: read the exact bytes before a swap'}
            </Row>
            <Row name="Condition">
              {CONDITION_WORDS[drive.condition]}
              {drive.note !== undefined && `: ${drive.note}`}
            </Row>
            <Row name="Part of">{roleWords(unit, drive.serial)}</Row>
            <Row name="In since">
              {drive.foundThere === true && 'not known: it stood there already on '}
              <Moment at={drive.insertedAt} />
            </Row>
            {drive.model !== undefined && <Row name="Model">{drive.model}</Row>}
            {drive.priceCents !== undefined && (
              <Row name="Paid">
                {new Intl.NumberFormat('en', { style: 'currency', currency }).format(drive.priceCents / 100)}
              </Row>
            )}
          </dl>
        )}
        {mayRecord && <BayActions key={bay} id={id} version={version} unit={unit} bay={bay} />}
      </section>
    </div>
  );
}

/** The bay to look at first: one that has failed, then one that shows signs, then the first. */
function mostTroubled(unit: UnitState): string {
  const bayWith = (...conditions: string[]): string | undefined =>
    Object.values(unit.drives).find(({ bay, condition }) => bay !== null && conditions.includes(condition))?.bay ??
    undefined;
  return bayWith('failed', 'out-of-service') ?? bayWith('suspected') ?? unit.enclosures[0]?.bays[0] ?? '';
}
