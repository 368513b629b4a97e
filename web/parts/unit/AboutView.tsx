'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent, type ReactNode } from 'react';
import { formatRate } from '~/core/quantity/formatRate';
import { FIELD_WORDS } from '~/core/record/eventWords';
import { serviceOf } from '~/core/unit/serviceOf';
import type { UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { Moment } from './Moment';
import { Row } from './Row';

/** Where a unit is not as its family. */
const DIFFERS = {
  driveChange: { running: 'while it runs', off: 'switched off', 'case-opened': 'switched off, and the case opened' },
  locateLight: { yes: 'blinks when asked', no: 'none' },
} as const;
type Differing = keyof typeof DIFFERS;
const DIFFERING = Object.keys(DIFFERS) as Differing[];
const FIELDS = ['serial', 'address', 'hardwareAddress', 'firmware', 'supplies', 'ports', 'call', 'boughtOn', 'warrantyUntil', 'notes'] as const;

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly mayRecord: boolean;
}

/** What is known of the unit as a box, and the form that changes it. */
export function AboutView({ id, version, unit, mayRecord }: Props): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const [isEditing, setIsEditing] = useState(false);
  const { details, place, speed } = unit;
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    const changed = Object.fromEntries(
      [...FIELDS, ...DIFFERING].filter((field) => text(field) !== (details[field] ?? '')).map((field) => [field, text(field) === '' ? null : text(field)]),
    );
    const described = {
      kind: 'unit-described' as const,
      ...(text('name') === unit.name ? {} : { name: text('name') }),
      ...(text('site') === place.site && text('room') === place.room && text('shelf') === (place.shelf ?? '')
        ? {}
        : { place: { site: text('site'), room: text('room'), ...(text('shelf') === '' ? {} : { shelf: text('shelf') }) } }),
      ...(Object.keys(changed).length === 0 ? {} : { details: changed }),
    };
    if (Object.keys(described).length > 1 && !(await run('POST /units/{id}/events', { id, body: { expectedVersion: version, event: described } }))) return;
    setIsEditing(false);
    tell('Written down.');
    router.refresh();
  };
  if (!isEditing) {
    return (
      <div className="grid gap-4">
        <dl className="grid max-w-[640px] grid-cols-[auto_1fr] gap-x-6 gap-y-1">
          <Row name="Family">{unit.profile.name}</Row>
          <Row name="Stands">
            {place.site}, {place.room}
            {place.shelf !== undefined && `, ${place.shelf}`}
          </Row>
          <Row name="Enclosures">
            {unit.enclosures
              .map(({ name, bays, dial }) => `${name}, ${String(bays.length)} bays${dial === undefined ? '' : `, dial ${String(dial)}`}`)
              .join('; ')}
          </Row>
          <Row name="Power">{unit.power}</Row>
          {FIELDS.filter((field) => details[field] != null).map((field) => (
            <Row key={field} name={capital(FIELD_WORDS[field] ?? field)}>
              <span className="whitespace-pre-wrap">{details[field]}</span>
            </Row>
          ))}
          {DIFFERING.map((field) => (
            <Row key={field} name={capital(FIELD_WORDS[field] ?? field)}>
              {wordsOf(field, details[field] ?? ofFamily(unit)[field])}
              {details[field] == null && <span className="text-muted">, as its family</span>}
            </Row>
          ))}
          {speed.baseline && (
            <Row name="Speed when new">
              reads {formatRate(speed.baseline.readBytesPerSecond)}, writes {formatRate(speed.baseline.writeBytesPerSecond)}, <Moment at={speed.baseline.at} />
            </Row>
          )}
          {speed.last && speed.last.at !== speed.baseline?.at && (
            <Row name="Speed measured last">
              reads {formatRate(speed.last.readBytesPerSecond)}, writes {formatRate(speed.last.writeBytesPerSecond)}, <Moment at={speed.last.at} />
            </Row>
          )}
          <Row name="On the shelf since">
            <Moment at={unit.registeredAt} />
          </Row>
        </dl>
        {mayRecord && (
          <div className="no-print">
            <Button onClick={() => setIsEditing(true)}>Change what is known</Button>
          </div>
        )}
      </div>
    );
  }
  return (
    <form className="grid max-w-[640px] gap-4" onSubmit={(event) => void submit(event)}>
      {fault && <Notice grave>{fault.sentence}</Notice>}
      <div className="grid gap-4 sm:grid-cols-2">
        <Field label="Name" name="name" defaultValue={unit.name} required maxLength={60} />
        <Field label="Site" name="site" defaultValue={place.site} required maxLength={60} />
        <Field label="Room" name="room" defaultValue={place.room} required maxLength={60} />
        <Field label="Shelf" name="shelf" defaultValue={place.shelf ?? ''} maxLength={60} />
        {FIELDS.filter((field) => field !== 'notes').map((field) => (
          <Field
            key={field}
            label={capital(FIELD_WORDS[field] ?? field)}
            name={field}
            type={field === 'boughtOn' || field === 'warrantyUntil' ? 'date' : 'text'}
            defaultValue={details[field] ?? ''}
            autoComplete="off"
            fault={fault?.fields[`event/details/${field}`]}
          />
        ))}
        {DIFFERING.map((field) => (
          <label key={field} className="block">
            <span className="mb-1 block font-semibold">{capital(FIELD_WORDS[field] ?? field)}</span>
            <select name={field} className="field" defaultValue={details[field] ?? ''}>
              <option value="">as its family: {wordsOf(field, ofFamily(unit)[field])}</option>
              {Object.entries(DIFFERS[field]).map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        ))}
      </div>
      <label className="block">
        <span className="mb-1 block font-semibold">Notes</span>
        <textarea name="notes" className="field" rows={4} maxLength={2000} defaultValue={details.notes ?? ''} />
      </label>
      <div className="flex justify-end gap-2">
        <Button onClick={() => setIsEditing(false)}>Leave it</Button>
        <Button look="main" type="submit" disabled={busy}>
          Write it down
        </Button>
      </div>
    </form>
  );
}

function wordsOf(field: Differing, value: string): string {
  return (DIFFERS[field] as Readonly<Record<string, string>>)[value] ?? value;
}

/** What its family has. */
function ofFamily({ profile }: UnitState): Readonly<Record<Differing, string>> {
  const { isCold, opensCase, locateLight } = serviceOf({ profile, details: {} });
  return { driveChange: opensCase ? 'case-opened' : isCold ? 'off' : 'running', locateLight: locateLight ? 'yes' : 'no' };
}

function capital(word: string): string {
  return `${word[0]?.toUpperCase() ?? ''}${word.slice(1)}`;
}
