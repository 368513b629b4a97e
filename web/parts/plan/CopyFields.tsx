'use client';
import type { ReactNode } from 'react';
import { Field } from '~/web/parts/form/Field';
import { Radios } from '~/web/parts/form/Radios';
import { Tick } from '~/web/parts/form/Tick';
import type { CopyTyped } from './copyTyped';

interface Props {
  readonly of: CopyTyped;
  /** Where copies are by the register: to choose from. */
  readonly known: readonly string[];
  readonly onChange: (typed: CopyTyped) => void;
}

/** The copy a plan leans on, field by field: where, when it last ran, what it keeps, off site, which file came back; or none. */
export function CopyFields({ of, known, onChange }: Props): ReactNode {
  const change = (part: Partial<CopyTyped>): void => onChange({ ...of, ...part });
  return (
    <div className="grid gap-4" data-copy-fields>
      <Radios
        legend="Is there another copy?"
        name="has"
        options={[
          { value: 'copy', words: 'Yes: it is kept somewhere else' },
          { value: 'none', words: 'None', detail: 'Nothing else holds what is on it.' },
        ]}
        value={of.has}
        onValue={(has) => change({ has: has as CopyTyped['has'] })}
      />
      {of.has === 'none' && (
        <Field
          label="Why it goes on without a copy"
          hint="Left empty the plan stops here, and says how one is arranged. What you write is recorded as it is."
          value={of.why}
          maxLength={300}
          autoComplete="off"
          onChange={(event) => change({ why: event.target.value })}
        />
      )}
      {of.has === 'copy' && (
        <>
          <Field
            label="Where it is"
            name="where"
            hint={
              known.length === 0
                ? 'Another unit, a rented store, a drive in the bank'
                : `On record: ${known.join('; ')}`
            }
            value={of.where}
            maxLength={120}
            list="copies-known"
            autoComplete="off"
            onChange={(event) => change({ where: event.target.value })}
          />
          <datalist id="copies-known">
            {known.map((one) => (
              <option key={one} value={one} />
            ))}
          </datalist>
          <Field
            label="When it last ran"
            name="ranOn"
            type="date"
            hint="Left empty: not known, or it never has."
            value={of.ranOn}
            onChange={(event) => change({ ranOn: event.target.value })}
          />
          <Radios
            legend="What it keeps"
            name="keeps"
            options={[
              { value: 'versions', words: 'Versions', detail: 'What was deleted or overwritten can be fetched back.' },
              { value: 'mirror', words: 'A mirror', detail: 'It repeats deletions, and is no backup.' },
            ]}
            value={of.keeps}
            onValue={(keeps) => change({ keeps: keeps as CopyTyped['keeps'] })}
          />
          <Tick words="It is in another building" isOn={of.offSite} onChange={(offSite) => change({ offSite })} />
          <Field
            label="A file that came back from it"
            name="file"
            hint="Its name. Left empty: none was fetched back."
            value={of.file}
            maxLength={200}
            autoComplete="off"
            onChange={(event) => change({ file: event.target.value })}
          />
          {of.file.trim() !== '' && (
            <>
              <Field
                label="When it came back"
                name="fetchedOn"
                type="date"
                value={of.fetchedOn}
                onChange={(event) => change({ fetchedOn: event.target.value })}
              />
              <Radios
                legend="Did it open, and was it what it should be?"
                name="opened"
                options={[
                  { value: 'yes', words: 'Yes, it was opened' },
                  { value: 'no', words: 'No' },
                ]}
                value={of.opened}
                onValue={(opened) => change({ opened: opened as CopyTyped['opened'] })}
              />
            </>
          )}
        </>
      )}
    </div>
  );
}
