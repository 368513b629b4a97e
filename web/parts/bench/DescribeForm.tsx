'use client';
import type { ReactNode } from 'react';
import { factsOf, SCHEMES } from '~/core/layout/scheme';
import type { Profile } from '~/core/platform/profile';
import { GB, TB } from '~/core/quantity/bytes';
import { parseNumber } from '~/core/quantity/parseNumber';
import { NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { TicksField } from '~/web/parts/form/fields/SelectField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';

const KINDS = [
  { value: '3.5-inch', words: '3.5-inch' },
  { value: '2.5-inch', words: '2.5-inch' },
  { value: 'm2', words: 'M.2' },
];

interface Props {
  /** What is not asked is taken from it. */
  readonly like: Profile;
  readonly onDescribed: (id: string) => void;
}

/** A unit no profile fits: its bays, their kinds, its limits. */
export function DescribeForm({ like, onDescribed }: Props): ReactNode {
  const { largestDriveBytes, ...bays } = like.bays;
  const sheet = useSheet({
    start: {
      name: '',
      bays: String(like.bays.choices[0] ?? 4),
      largest: largestDriveBytes === undefined ? '' : String(Math.floor(largestDriveBytes / TB)),
      system: String(Number((like.space.systemAreaBytes / GB).toFixed(1))),
      kinds: [...like.bays.kinds] as readonly string[],
      schemes: SCHEMES.filter((scheme) => like.schemes[scheme] !== undefined) as readonly string[],
    },
    keep: 'unit described',
    sends: 'PUT /profiles/{id}',
    at: {
      bays: '/bays/choices',
      kinds: '/bays/kinds',
      largest: '/bays/largestDriveBytes',
      system: '/space/systemAreaBytes',
    },
    asks: (values) => {
      const name = values.name.trim();
      const slug = name.toLowerCase().replace(/[^a-z0-9]+/g, '-');
      if (!/[a-z0-9]/.test(slug)) return unread({ name: 'A name with a letter or a figure in it, please.' });
      const [largest, system] = [
        values.largest.trim() === '' ? 0 : parseNumber(values.largest, 'decimal'),
        parseNumber(values.system, 'decimal'),
      ];
      if (largest === null) return unread({ largest: 'A number of TB, or nothing.' });
      if (system === null) return unread({ system: 'A number of GB.' });
      const profile = {
        ...like,
        id: `own-${slug}`.slice(0, 40).replace(/-$/, ''),
        name,
        bays: {
          ...bays,
          choices: [Number(values.bays)],
          kinds: values.kinds as Profile['bays']['kinds'],
          ...(largest > 0 ? { largestDriveBytes: Math.round(largest * TB) } : {}),
        },
        schemes: Object.fromEntries(
          values.schemes.map((scheme) => [scheme, like.schemes[scheme as keyof Profile['schemes']] ?? {}]),
        ),
        space: { ...like.space, systemAreaBytes: Math.round(system * GB) },
      };
      return { id: profile.id, body: profile };
    },
    done: ({ id }, { name }) => {
      tell(`${name.trim()} is described. Settings has it as JSON, with everything that was not asked here.`);
      onDescribed(id);
    },
  });
  return (
    <Sheet of={sheet} sends="Plan for it">
      <p className="text-muted">For a unit that no family here fits. Everything not asked is taken from {like.name}.</p>
      <TextField label="What to call it" name="name" required maxLength={60} autoFocus />
      <div className="grid grid-cols-3 gap-3">
        <NumberField label="Bays" name="bays" min={1} max={1000} required />
        <TextField label="Largest drive" name="largest" inputMode="decimal" suffix="TB" placeholder="any" />
        <TextField label="Own area a drive" name="system" inputMode="decimal" suffix="GB" required />
      </div>
      <TicksField label="Kinds of bay" name="kinds" options={KINDS} />
      <TicksField
        label="Layouts it offers"
        name="schemes"
        options={SCHEMES.map((scheme) => ({ value: scheme, words: factsOf(scheme).name }))}
        columns
      />
    </Sheet>
  );
}
