'use client';
import { useState, type FormEvent, type ReactNode } from 'react';
import { copyTroubles } from '~/core/upkeep/copyNeeds';
import { formatBytes } from '~/core/quantity/formatBytes';
import { readSize } from '~/core/drive/readSize';
import type { StatedUnitEvent } from '~/schemas/unitEvent';
import { poolsOf, type DataSet, type UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useRecord } from '~/web/parts/record/useRecord';
import { Moment } from './Moment';

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
  const say = (event: StatedUnitEvent, sentence: string): void => {
    void recorder.record({ unit: id, version, event, sentence });
    setAdding(null);
  };
  const sets = Object.values(unit.dataSets);
  return (
    <div className="grid gap-4">
      {recorder.fault !== null && <Notice grave>{recorder.fault}</Notice>}
      {sets.length === 0 && (
        <p className="max-w-[560px] text-muted">
          Nobody has written down yet what is kept here and where else it is. A pool is not a backup: fire, theft, deletion and overwriting take all members at
          once.
        </p>
      )}
      {sets.map((set) => {
        const troubles = copyTroubles(set, unit.registeredAt).filter(({ from }) => from <= now);
        return (
          <section key={set.id} aria-label={set.name} className="border border-line bg-surface p-3">
            <h3 className="text-lg">
              {set.name}
              <span className="ml-2 text-base font-normal text-muted">
                {set.pool !== undefined && (unit.pools[set.pool]?.name ?? '')} {set.bytes !== undefined && formatBytes(set.bytes, 'binary')}
              </span>
            </h3>
            {troubles.map(({ reason }) => (
              <p key={reason} className="mt-1 font-semibold text-watch">
                {reason}
              </p>
            ))}
            <ul className="mt-2 grid gap-2">
              {Object.values(set.copies).map((copy) => {
                const confirm = (outcome: Extract<StatedUnitEvent, { kind: 'copy-confirmed' }>['outcome'], words: string): void =>
                  say({ kind: 'copy-confirmed', dataSet: set.id, copy: copy.id, outcome }, `${set.name} at ${copy.where}: ${words}`);
                return (
                  <li key={copy.id} className="border-t border-line pt-2">
                    <p>
                      <strong>{copy.where}</strong>: {copy.keeps === 'versions' ? 'keeps versions' : 'a mirror, which repeats deletions'},{' '}
                      {copy.offSite ? 'off site' : 'on site'}
                      {copy.everyDays !== undefined && `, meant to run every ${copy.everyDays === 1 ? 'day' : `${String(copy.everyDays)} days`}`}
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
                      .
                    </p>
                    {mayRecord && (
                      <div className="no-print mt-2 flex flex-wrap gap-2" role="group" aria-label={`Record of the copy at ${copy.where}`}>
                        <Button disabled={recorder.busy} onClick={() => confirm('ran', 'backup ran')}>
                          It ran
                        </Button>
                        <Button disabled={recorder.busy} onClick={() => confirm('failed', 'backup failed')}>
                          It failed
                        </Button>
                        <Button disabled={recorder.busy} onClick={() => confirm('restore-worked', 'restore worked')}>
                          Restore tried, worked
                        </Button>
                        <Button disabled={recorder.busy} onClick={() => confirm('restore-failed', 'restore did not work')}>
                          Restore tried, did not
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
      <Dialog open={adding !== null} onOpenChange={(open) => !open && setAdding(null)} title={adding === 'data-set' ? 'A data set kept here' : 'A copy of it'}>
        {adding === 'data-set' ? <NewDataSet unit={unit} onSay={say} /> : adding && <NewCopy set={adding} onSay={say} />}
      </Dialog>
    </div>
  );
}

type Say = (event: StatedUnitEvent, sentence: string) => void;

function NewDataSet({ unit, onSay }: { readonly unit: UnitState; readonly onSay: Say }): ReactNode {
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const name = String(form.get('name') ?? '').trim();
    const pool = String(form.get('pool') ?? '');
    onSay({ kind: 'data-set-described', dataSet: freeId('data', unit.dataSets), name, ...(pool === '' ? {} : { pool }) }, `data set ${name}`);
  };
  return (
    <form className="grid gap-4" onSubmit={submit}>
      <Field label="What it is" name="name" required maxLength={60} autoFocus autoComplete="off" hint="Accounts, survey pictures, a volume of machines…" />
      <label className="block">
        <span className="mb-1 block font-semibold">Where it lies</span>
        <select name="pool" className="field">
          {poolsOf(unit).map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
          <option value="">the whole unit</option>
        </select>
      </label>
      <div className="flex justify-end">
        <Button look="main" type="submit">
          Write it down
        </Button>
      </div>
    </form>
  );
}

function NewCopy({ set, onSay }: { readonly set: DataSet; readonly onSay: Say }): ReactNode {
  const [fault, setFault] = useState<string | null>(null);
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    const free = text('free') === '' ? null : readSize(text('free'));
    if (free !== null && isRefusal(free)) return setFault(free.sentence);
    const days = Number(text('days'));
    onSay(
      {
        kind: 'copy-described',
        dataSet: set.id,
        copy: freeId('copy', set.copies),
        where: text('where'),
        keeps: text('keeps') === 'mirror' ? 'mirror' : 'versions',
        offSite: form.get('offSite') !== null,
        ...(Number.isInteger(days) && days > 0 ? { everyDays: days } : {}),
        ...(free === null ? {} : { freeBytes: free.bytes }),
      },
      `copy of ${set.name} at ${text('where')}`,
    );
    return undefined;
  };
  return (
    <form className="grid gap-4" onSubmit={submit}>
      <Field label="Where it is" name="where" required maxLength={120} autoFocus autoComplete="off" hint="Another unit, a rented store, a drive in the bank" />
      <fieldset className="grid gap-1">
        <legend className="font-semibold">What it keeps</legend>
        <label className="flex min-h-9 items-center gap-2 max-sm:min-h-11">
          <input type="radio" name="keeps" value="versions" defaultChecked /> versions: what was deleted can be fetched back
        </label>
        <label className="flex min-h-9 items-center gap-2 max-sm:min-h-11">
          <input type="radio" name="keeps" value="mirror" /> a mirror: it repeats deletions, and is no backup
        </label>
      </fieldset>
      <label className="flex min-h-9 items-center gap-2 max-sm:min-h-11">
        <input type="checkbox" name="offSite" /> off site
      </label>
      <div className="grid grid-cols-2 gap-4">
        <Field label="Runs every … days" name="days" type="number" min={1} max={3650} defaultValue={7} />
        <Field label="Free there" name="free" placeholder="4.2 TiB" autoComplete="off" fault={fault ?? undefined} />
      </div>
      <div className="flex justify-end">
        <Button look="main" type="submit">
          Write it down
        </Button>
      </div>
    </form>
  );
}

function freeId(word: string, taken: object): string {
  let n = 1;
  while (`${word}-${String(n)}` in taken) n++;
  return `${word}-${String(n)}`;
}
