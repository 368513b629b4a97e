'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent, type ReactNode } from 'react';
import type { StatedDriveEvent } from '~/schemas/driveEvent';
import type { DriveLife } from '~/core/driveLife/life';
import { readSize } from '~/core/drive/readSize';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { SerialField } from '~/web/parts/form/SerialField';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { PlaceFields } from './PlaceFields';

type Doing = 'drawer' | 'tested' | 'warranty' | 'settled' | 'wiped' | 'away' | 'described';

interface Props {
  readonly serial: string;
  readonly version: number;
  readonly life: DriveLife;
  readonly sites: readonly { readonly site: string; readonly room: string }[];
  /** Papers kept with it, to name one as proof. */
  readonly papers: readonly { readonly id: string; readonly name: string }[];
}

const WORDS: Record<Doing, string> = {
  drawer: 'Put into a drawer',
  tested: 'Tested',
  warranty: 'Send under warranty',
  settled: 'Warranty settled',
  wiped: 'Wiped',
  away: 'Sent away',
  described: 'Describe it',
};

/** What can be recorded of a drive that is in no unit: where it was put, how it was emptied, where it went. */
export function DriveActions({ serial, version, life, sites, papers }: Props): ReactNode {
  const router = useRouter();
  const { busy, fault, run, setFault } = useSending();
  const [doing, setDoing] = useState<Doing | null>(null);
  const [came, setCame] = useState('');
  const [place, setPlace] = useState(life.where.kind === 'drawer' ? life.where : { site: sites[0]?.site ?? '', room: sites[0]?.room ?? '', drawer: '' });
  const kind = life.where.kind;
  const may: readonly Doing[] =
    kind === 'bay'
      ? ['described']
      : kind === 'under-warranty'
        ? ['settled', 'drawer']
        : kind === 'gone'
          ? ['described']
          : ['drawer', 'tested', 'wiped', 'warranty', 'away', 'described'];

  const record = async (event: StatedDriveEvent, when: string): Promise<void> => {
    const happenedAt = when === '' ? {} : { happenedAt: new Date(when).toISOString() };
    if (!(await run('POST /drives/{serial}/events', { serial, body: { expectedVersion: version, event, ...happenedAt } }))) return;
    tell('Recorded.');
    setDoing(null);
    router.refresh();
  };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    const note = {
      ...(text('note') === '' ? {} : { note: text('note') }),
      ...(text('paper') === '' ? {} : { paper: text('paper') }),
    };
    const when = text('when');
    switch (doing) {
      case 'drawer':
        return void record({ kind: 'put-in-drawer', drawer: { site: place.site, room: place.room, drawer: place.drawer } }, when);
      case 'tested':
        return void record({ kind: 'tested', result: text('result') === 'sick' ? 'sick' : 'well', ...note }, when);
      case 'warranty':
        return void record({ kind: 'sent-under-warranty', to: text('to'), ...(text('claim') === '' ? {} : { claim: text('claim') }), ...note }, when);
      case 'settled':
        return void record({ kind: 'warranty-settled', ...(text('replacement') === '' ? {} : { replacement: text('replacement') }), ...note }, when);
      case 'wiped':
        return void record(
          {
            kind: 'wiped',
            method: text('method') as 'clear' | 'purge' | 'destroy',
            how: text('how'),
            by: text('by'),
            checked: form.get('checked') !== null,
            ...(text('paper') === '' ? {} : { paper: text('paper') }),
          },
          when,
        );
      case 'away':
        return void record({ kind: 'sent-away', to: text('to'), ...note }, when);
      case 'described': {
        const size = text('size') === '' ? null : readSize(text('size'));
        if (size !== null && isRefusal(size)) return setFault({ sentence: size.sentence, fields: {} });
        const field = (name: 'model' | 'lot' | 'boughtOn' | 'warrantyUntil'): object => (text(name) === '' ? {} : { [name]: text(name) });
        const { bytes, basis } = size ?? life.drive;
        return void record(
          { kind: 'described', drive: { bytes, basis, ...field('model'), ...field('lot'), ...field('boughtOn'), ...field('warrantyUntil') } },
          when,
        );
      }
      case null:
        return undefined;
    }
  };
  return (
    <div className="no-print">
      <div className="flex flex-wrap gap-2" role="group" aria-label="Record of this drive">
        {may.map((one) => (
          <Button
            key={one}
            onClick={() => {
              setFault(null);
              setDoing(one);
            }}
          >
            {WORDS[one]}…
          </Button>
        ))}
      </div>
      <Dialog open={doing !== null} onOpenChange={(open) => !open && setDoing(null)} title={doing === null ? '' : WORDS[doing]}>
        <form className="grid gap-4" onSubmit={submit}>
          {fault && <Notice grave>{fault.sentence}</Notice>}
          {doing === 'drawer' && <PlaceFields sites={sites} value={place} onChange={setPlace} />}
          {doing === 'tested' && (
            <label className="block">
              <span className="mb-1 block font-semibold">Result</span>
              <select name="result" className="field">
                <option value="well">well</option>
                <option value="sick">sick: no longer counted as a spare</option>
              </select>
            </label>
          )}
          {(doing === 'warranty' || doing === 'away') && <Field label="To" name="to" required maxLength={120} autoFocus autoComplete="off" />}
          {doing === 'warranty' && (
            <>
              <Notice>
                <p>Wipe it first where you can, and say so on the paper: what is on it leaves the house with it.</p>
              </Notice>
              <Field label="Number of the claim" name="claim" maxLength={60} autoComplete="off" />
            </>
          )}
          {doing === 'settled' && <SerialField label="Serial that came for it" name="replacement" maxLength={64} autoFocus value={came} onSerial={setCame} />}
          {doing === 'wiped' && (
            <>
              <label className="block">
                <span className="mb-1 block font-semibold">How thoroughly (NIST SP 800-88)</span>
                <select name="method" className="field" defaultValue="purge">
                  <option value="clear">clear: overwritten through its usual commands</option>
                  <option value="purge">purge: its own secure erase, beyond a laboratory’s reach</option>
                  <option value="destroy">destroy: shredded or melted, and used no more</option>
                </select>
              </label>
              <Field label="With what" name="how" required maxLength={200} autoFocus autoComplete="off" hint="The command or the machine, and its version" />
              <Field label="By whom" name="by" required maxLength={120} autoComplete="off" />
              <label className="flex min-h-9 items-center gap-2 max-sm:min-h-11">
                <input type="checkbox" name="checked" /> checked afterwards by reading it
              </label>
            </>
          )}
          {doing === 'away' && life.wiped === null && (
            <Notice grave title="No wipe is recorded">
              <p>What is on it leaves the house with it. Wipe it first, or shred it, and keep the record.</p>
            </Notice>
          )}
          {doing === 'described' && (
            <div className="grid gap-4 sm:grid-cols-2">
              <Field
                label="Size"
                name="size"
                placeholder={`${String(life.drive.bytes)} B`}
                hint="Exact bytes or sectors, read off the drive"
                autoComplete="off"
              />
              <Field label="Model" name="model" defaultValue={life.drive.model ?? ''} maxLength={64} autoComplete="off" />
              <Field label="Lot" name="lot" defaultValue={life.drive.lot ?? ''} maxLength={40} autoComplete="off" />
              <Field label="Bought on" name="boughtOn" type="date" defaultValue={life.drive.boughtOn ?? ''} />
              <Field label="Warranty until" name="warrantyUntil" type="date" defaultValue={life.drive.warrantyUntil ?? ''} />
            </div>
          )}
          {(doing === 'tested' || doing === 'warranty' || doing === 'settled' || doing === 'away') && (
            <Field label="Note" name="note" maxLength={400} autoComplete="off" />
          )}
          <div className="grid gap-4 sm:grid-cols-2">
            <Field label="When" name="when" type="datetime-local" hint="Left empty means now" />
            {papers.length > 0 && doing !== 'drawer' && doing !== 'described' && (
              <label className="block">
                <span className="mb-1 block font-semibold">Paper that proves it</span>
                <select name="paper" className="field">
                  <option value="">none</option>
                  {papers.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              </label>
            )}
          </div>
          <div className="flex justify-end">
            <Button look="main" type="submit" disabled={busy}>
              Record it
            </Button>
          </div>
        </form>
      </Dialog>
    </div>
  );
}
