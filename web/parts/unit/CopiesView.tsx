'use client';
import dynamic from 'next/dynamic';
import Link from '~/web/parts/frame/Link';
import { useState, type ReactNode } from 'react';
import { copyTroubles } from '~/core/upkeep/copyNeeds';
import { formatBytes } from '~/core/quantity/formatBytes';
import { isProven } from '~/core/unit/provenCopy';
import type { StatedUnitEvent } from '~/schemas/unitEvent';
import type { DataSet, UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';
import type { Say } from '~/web/parts/record/useEventSheet';
import { Refused } from '~/web/parts/way/Refused';
import { useRecord } from '~/web/parts/record/useRecord';
import { Moment } from './Moment';

const DataSetForm = dynamic(() => import('./CopyForms').then((part) => part.DataSetForm), { ssr: false });
const CopyForm = dynamic(() => import('./CopyForms').then((part) => part.CopyForm), { ssr: false });

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly now: string;
  readonly mayRecord: boolean;
}

/** The register of copies of one unit: every data set, where it is kept once more, when that last ran and was tried. */
export function CopiesView({ id, version, unit, now, mayRecord }: Props): ReactNode {
  const recorder = useRecord();
  const [adding, setAdding] = useState<'data-set' | DataSet | null>(null);
  const say: Say = async (event, sentence) => {
    const fault = await recorder.record({ unit: id, version, event, sentence });
    if (fault === null) setAdding(null);
    return fault;
  };
  const sets = Object.values(unit.dataSets);
  return (
    <div className="grid gap-4">
      <Refused fault={recorder.fault} way={recorder.way} />
      {unit.movedTo && (
        <p className="max-w-[560px]">
          What is left here is a copy: its data is at home in{' '}
          <Link href={`/units/${unit.movedTo.unit}?view=copies`} className="text-action underline">
            another unit
          </Link>{' '}
          since <Moment at={unit.movedTo.at} />.
        </p>
      )}
      {sets.length === 0 && !unit.movedTo && (
        <p className="max-w-[560px] text-muted">
          Nobody has written down yet what is kept here and where else it is. A pool is not a backup: fire, theft,
          deletion and overwriting take all members at once.
        </p>
      )}
      {sets.map((set) => {
        const troubles = copyTroubles(set, unit.registeredAt).filter(({ from }) => from <= now);
        return (
          <section key={set.id} aria-label={set.name} className="border border-line bg-surface p-3">
            <h3 className="text-lg">
              {set.name}
              <span className="ml-2 text-base font-normal text-muted">
                {set.pool !== undefined && (unit.pools[set.pool]?.name ?? '')}{' '}
                {set.bytes !== undefined && formatBytes(set.bytes, 'binary')}
              </span>
            </h3>
            {troubles.map(({ reason }) => (
              <p key={reason} className="mt-1 font-semibold text-watch">
                {reason}
              </p>
            ))}
            <ul className="mt-2 grid gap-2">
              {Object.values(set.copies).map((copy) => {
                const confirm = (
                  outcome: Extract<StatedUnitEvent, { kind: 'copy-confirmed' }>['outcome'],
                  words: string,
                ): void =>
                  void say(
                    { kind: 'copy-confirmed', dataSet: set.id, copy: copy.id, outcome },
                    `${set.name} at ${copy.where}: ${words}`,
                  );
                return (
                  <li key={copy.id} className="border-t border-line pt-2">
                    <p>
                      <strong>{copy.where}</strong>:{' '}
                      {copy.keeps === 'versions' ? 'keeps versions' : 'a mirror, which repeats deletions'},{' '}
                      {copy.offSite ? 'off site' : 'on site'}
                      {copy.everyDays !== undefined &&
                        `, meant to run every ${copy.everyDays === 1 ? 'day' : `${String(copy.everyDays)} days`}`}
                      {copy.freeBytes !== undefined && `, ${formatBytes(copy.freeBytes, 'binary')} free there`}.
                    </p>
                    <p className="text-muted">
                      {copy.ranAt === undefined ? (
                        'Never seen to run'
                      ) : (
                        <>
                          Last ran <Moment at={copy.ranAt} relative />
                        </>
                      )}
                      {copy.failedAt !== undefined && (
                        <>
                          , failed <Moment at={copy.failedAt} relative />
                        </>
                      )}
                      {'; '}
                      {copy.restoreTriedAt === undefined ? (
                        'no restore ever tried'
                      ) : (
                        <>
                          restore tried <Moment at={copy.restoreTriedAt} relative />
                          {copy.restoreWorked === false && ', did not work'}
                        </>
                      )}
                      {copy.sameAt !== undefined && (
                        <>
                          ; compared <Moment at={copy.sameAt} relative />, the same
                        </>
                      )}
                      {isProven(copy, now) ? '. It is proven' : ', so it is not proven now'}.
                    </p>
                    {mayRecord && (
                      <div
                        className="no-print mt-2 flex flex-wrap gap-2"
                        role="group"
                        aria-label={`Record of the copy at ${copy.where}`}
                      >
                        <Button disabled={recorder.busy} onClick={() => confirm('ran', 'backup ran')}>
                          It ran
                        </Button>
                        <Button disabled={recorder.busy} onClick={() => confirm('failed', 'backup failed')}>
                          It failed
                        </Button>
                        <Button disabled={recorder.busy} onClick={() => confirm('restore-worked', 'restore worked')}>
                          Restore tried, worked
                        </Button>
                        <Button
                          disabled={recorder.busy}
                          onClick={() => confirm('restore-failed', 'restore did not work')}
                        >
                          Restore tried, did not
                        </Button>
                        <Button disabled={recorder.busy} onClick={() => confirm('same', 'compared, the same')}>
                          Compared, the same
                        </Button>
                        <Button disabled={recorder.busy} onClick={() => confirm('differs', 'compared, and differs')}>
                          Compared, differs
                        </Button>
                      </div>
                    )}
                  </li>
                );
              })}
            </ul>
            {mayRecord && (
              <div className="no-print mt-3">
                <Button onClick={() => setAdding(set)}>Write down a copy…</Button>
              </div>
            )}
          </section>
        );
      })}
      {mayRecord && (
        <div className="no-print">
          <Button look={sets.length === 0 ? 'main' : 'plain'} onClick={() => setAdding('data-set')}>
            Write down a data set…
          </Button>
        </div>
      )}
      {adding !== null && (
        <FormDialog
          title={adding === 'data-set' ? 'A data set kept here' : 'A copy of it'}
          onClose={() => setAdding(null)}
        >
          {adding === 'data-set' ? (
            <DataSetForm unit={id} version={version} state={unit} onSay={say} />
          ) : (
            <CopyForm unit={id} version={version} set={adding} onSay={say} />
          )}
        </FormDialog>
      )}
    </div>
  );
}
