'use client';
import { useRouter } from 'next/navigation';
import { useMemo, type ReactNode } from 'react';
import { useFieldArray, useWatch } from 'react-hook-form';
import type { Scheme } from '~/core/layout/scheme';
import type { Profile } from '~/core/platform/profile';
import { readRunning } from '~/core/observe/readRunning';
import { notOffered } from '~/core/platform/notOffered';
import { enclosuresNamed } from '~/core/unit/enclosures';
import { isRefusal } from '~/core/value/refusal';
import { SiteAndRoom, type KnownPlace } from '~/web/parts/drives/PlaceFields';
import { Button } from '~/web/parts/form/Button';
import { filled } from '~/web/parts/form/filled';
import { RadioField, SelectField } from '~/web/parts/form/fields/SelectField';
import { AreaField, DateField, NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';
import { TRAYS_WORDS } from './traysWords';
import { pointersOfRunning, RunningPart, type RunningValues } from './RunningPart';

interface Family {
  readonly id: string;
  readonly name: string;
  readonly summary: string;
  readonly choices: readonly number[];
  readonly perEnclosure: number | null;
  readonly schemes: readonly Scheme[];
  readonly unitPage: Profile['unitPage'];
  /** What its boxes are. */
  readonly takes: Pick<Profile, 'name' | 'bays'>;
  /** How a drive is changed in it. */
  readonly driveChange: 'running' | 'off' | 'case-opened';
}

interface Box {
  readonly name: string;
  readonly bays: string;
  readonly dial: string;
}

interface Props {
  readonly profiles: readonly Family[];
  readonly places: readonly KnownPlace[];
  /** What is known of it beforehand: a family's id, and how many bays. */
  readonly like: { readonly family: string; readonly bays: number | null };
}

const TEXTS = [
  ['serial', 'Serial of the unit', ''],
  ['address', 'Address on the network', ''],
  ['hardwareAddress', 'Hardware address', 'Its last digits tell it apart'],
  ['firmware', 'Firmware', ''],
  ['supplies', 'Supplies', 'One or two, inside or outside'],
  ['ports', 'Network ports', 'How many, how fast, bonded'],
  ['call', 'Who to call', ''],
] as const;
const DETAILS = [...TEXTS.map(([field]) => field), 'boughtOn', 'warrantyUntil', 'notes'] as const;

interface Values extends RunningValues, Record<(typeof DETAILS)[number], string> {
  readonly driveChange: 'family' | 'running' | 'off' | 'case-opened';
  readonly name: string;
  readonly profile: string;
  readonly site: string;
  readonly room: string;
  readonly shelf: string;
  readonly boxes: readonly Box[];
  readonly holds: string;
}

const sentence = (words: string): string => `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}`;

const headOf = (of: Family | undefined): readonly Box[] => boxesOf(of, null);

/** The head alone; or as many boxes of the family's size as make so many bays. */
function boxesOf(of: Family | undefined, bays: number | null): readonly Box[] {
  const each = of?.perEnclosure ?? bays ?? of?.choices[0] ?? 4;
  const all = bays ?? each;
  return Array.from({ length: Math.min(MOST_BOXES, Math.max(1, Math.ceil(all / each))) }, (_, i) => ({
    name: i === 0 ? 'Head' : `Extension ${String(i)}`,
    bays: String(Math.min(each, all - i * each)),
    dial: '',
  }));
}

/** A unit as it stands: name, place, family, its boxes in the order they are cabled, what runs on it, and what its label says. */
export function RegisterForm({ profiles, places, like }: Props): ReactNode {
  const router = useRouter();
  const familyOf = (id: string): Family | undefined => profiles.find((one) => one.id === id);
  const usual = familyOf(like.family) ?? familyOf('plain') ?? profiles[0];
  const cabledOf = ({ boxes, profile }: Pick<Values, 'boxes' | 'profile'>) => ({
    enclosures: enclosuresNamed(boxes.map(boxSent).map((box) => ({ ...box, bays: box.bays || 0 }))),
    profile: { unitPage: familyOf(profile)?.unitPage ?? { counts: 'TiB' as const, prints: 'TiB' as const } },
  });
  const pointers = (pools: readonly unknown[]): Record<string, string> => ({
    site: '/place/site',
    room: '/place/room',
    shelf: '/place/shelf',
    boxes: '/enclosures',
    ...Object.fromEntries([...DETAILS, 'driveChange'].map((field) => [field, `/details/${field}`])),
    ...Object.fromEntries(
      Array.from({ length: MOST_BOXES }, (_, i) =>
        ['name', 'bays', 'dial'].map((of) => [`boxes.${String(i)}.${of}`, `/enclosures/${String(i)}/${of}`]),
      ).flat(),
    ),
    ...pointersOfRunning(pools),
  });
  const sheet = useSheet<Values, 'POST /units'>({
    start: {
      name: '',
      profile: usual?.id ?? '',
      site: '',
      room: '',
      shelf: '',
      boxes: boxesOf(usual, familyOf(like.family) ? like.bays : null),
      holds: 'nothing',
      page: '',
      drivesBoughtOn: '',
      cache: '',
      driveChange: 'family',
      pools: [],
      ...(Object.fromEntries(DETAILS.map((field) => [field, ''])) as Record<(typeof DETAILS)[number], string>),
    },
    keep: 'register a unit',
    sends: 'POST /units',
    at: pointers(Array.from({ length: MOST_POOLS })),
    asks: (values) => {
      const running =
        values.holds === 'running'
          ? readRunning(cabledOf(values), values.page, values.pools, values.drivesBoughtOn, values.cache)
          : undefined;
      if (running && isRefusal(running)) {
        const at = pointers(values.pools);
        const field = Object.keys(at).find((name) => at[name] === running.pointer) ?? 'root';
        return unread({ [field]: running.sentence, root: running.sentence });
      }
      const details = {
        ...filled(values, ...DETAILS),
        ...(values.driveChange === 'family' ? {} : { driveChange: values.driveChange }),
      };
      return {
        body: {
          name: values.name.trim(),
          place: { site: values.site.trim(), room: values.room.trim(), ...filled(values, 'shelf') },
          profile: values.profile,
          ...running,
          enclosures: values.boxes.map(boxSent),
          ...(Object.keys(details).length === 0 ? {} : { details }),
        },
      };
    },
    done: ({ id }, { name }) => {
      tell(`${name.trim()} is registered.`);
      router.push(`/units/${id}`);
    },
  });
  const { control, setValue } = sheet.form;
  const { fields, append, remove } = useFieldArray({ control, name: 'boxes' });
  const [boxes, profile, holds] = useWatch({ control, name: ['boxes', 'profile', 'holds'] });
  const family = familyOf(profile);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- the families stay as they are
  const cabled = useMemo(() => cabledOf({ boxes, profile }), [boxes, profile]);
  return (
    <Sheet of={sheet} sends="Register it" className="gap-5">
      <div className="grid gap-4 sm:grid-cols-2">
        <TextField label="Name" name="name" required maxLength={60} autoFocus hint="What people call it" />
        <SelectField
          label="Family"
          name="profile"
          hint={family?.summary}
          options={profiles.map(({ id, name }) => ({ value: id, words: name }))}
          // Boxes nobody has touched are the family's; what somebody wrote down is kept.
          onChosen={(id) => {
            if (sheet.form.formState.dirtyFields.boxes === undefined) setValue('boxes', [...headOf(familyOf(id))]);
          }}
        />
        <SiteAndRoom places={places} />
        <TextField label="Shelf" name="shelf" maxLength={60} hint="When a room has several" />
      </div>
      <fieldset className="grid gap-2">
        <legend className="mb-1 text-lg font-semibold">Boxes, in the order they are cabled</legend>
        {fields.map(({ id }, i) => (
          <div key={id} className="grid grid-cols-2 items-start gap-3 sm:grid-cols-[1fr_110px_90px_auto]">
            <TextField
              label={i === 0 ? 'Head' : `Extension ${String(i)}`}
              name={`boxes.${String(i)}.name`}
              required
              maxLength={60}
            />
            <NumberField label="Bays" name={`boxes.${String(i)}.bays`} min={1} max={1000} required />
            <NumberField label="Dial" name={`boxes.${String(i)}.dial`} min={0} max={255} />
            {i > 0 ? (
              <Button className="mt-[27px]" onClick={() => remove(i)}>
                Take off<span className="sr-only"> {boxes[i]?.name}</span>
              </Button>
            ) : (
              <span />
            )}
          </div>
        ))}
        {family &&
          notOffered(
            family.takes,
            boxes.map((box) => Number(box.bays) || 0),
            [],
          ).map((sentence) => (
            <p key={sentence} className="font-semibold text-watch" data-not-offered>
              {sentence}
            </p>
          ))}
        <div>
          <Button
            onClick={() =>
              append({
                name: `Extension ${String(fields.length)}`,
                bays: String(family?.perEnclosure ?? boxes.at(-1)?.bays ?? 4),
                dial: String(fields.length),
              })
            }
          >
            Add an extension
          </Button>
        </div>
      </fieldset>
      <RadioField
        name="driveChange"
        label="How trays come out of it"
        options={[
          {
            value: 'family',
            words: `As its family has it: ${TRAYS_WORDS[family?.driveChange ?? 'running']}`,
            detail: 'It is asked once more at its first plan.',
          },
          ...(['running', 'off', 'case-opened'] as const).map((value) => ({
            value,
            words: sentence(TRAYS_WORDS[value]),
          })),
        ]}
      />
      <RadioField
        name="holds"
        label="What is in it"
        options={[
          { value: 'nothing', words: 'Nothing yet, or it is put in bay by bay' },
          { value: 'running', words: 'It runs already: say what its page shows' },
        ]}
      />
      {holds === 'running' && <RunningPart boxes={cabled} schemes={family?.schemes ?? []} />}
      <details>
        <summary className="min-h-9 cursor-pointer text-lg font-semibold">What its label and its papers say</summary>
        <div className="mt-3 grid gap-4 sm:grid-cols-2">
          {TEXTS.map(([field, label, hint]) => (
            <TextField key={field} label={label} name={field} {...(hint === '' ? {} : { hint })} />
          ))}
          <DateField label="Bought on" name="boughtOn" />
          <DateField label="Warranty until" name="warrantyUntil" />
          <div className="sm:col-span-2">
            <AreaField label="Notes" name="notes" rows={3} maxLength={2000} />
          </div>
        </div>
      </details>
    </Sheet>
  );
}

/** As many boxes and pools as one form is filled in for. */
const [MOST_BOXES, MOST_POOLS] = [32, 32];

function boxSent({ name, bays, dial }: Box): { readonly name: string; readonly bays: number; readonly dial?: number } {
  return { name: name.trim(), bays: Number(bays), ...(dial.trim() === '' ? {} : { dial: Number(dial) }) };
}
