'use client';
import { useFormContext, useWatch } from 'react-hook-form';
import type { ReactNode } from 'react';
import { factsOf, schemeWords, type Scheme } from '~/core/layout/scheme';
import { MOST_DRIVES_NAMED } from '~/schemas/words';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { parseCents } from '~/web/parts/form/parseCents';
import { unread, type Unread } from '~/web/parts/form/sheet/useSheet';
import type { AskedOf } from '~/web/parts/form/api';

/** A family a new unit may be of. */
export interface FamilyToBuy {
  readonly id: string;
  readonly name: string;
  readonly choices: readonly number[];
  readonly schemes: readonly Scheme[];
}

/** What is said of a new unit that may be bought: its family, or that there is none. */
export interface NewUnitValues {
  readonly family: string;
  readonly bays: string;
  readonly scheme: string;
  readonly width: string;
  readonly unitPrice: string;
}

const NO_UNIT = 'none';
export const NO_NEW_UNIT: NewUnitValues = { family: NO_UNIT, bays: '', scheme: '', width: '', unitPrice: '' };

/** Where these stand in what is asked. */
export const NEW_UNIT_AT = {
  family: '/newUnit/profile',
  bays: '/newUnit/bays',
  scheme: '/newUnit/scheme',
  width: '/newUnit/groupWidth',
  unitPrice: '/newUnit/cents',
} as const;

/** The part of the question that is about it; nothing where none may be bought. */
export function newUnitAsked({
  family,
  bays,
  scheme,
  width,
  unitPrice,
}: NewUnitValues): Unread | Pick<AskedOf<'POST /units/{id}/growth'>['body'], 'newUnit'> {
  if (family === NO_UNIT) return {};
  const cents = parseCents(unitPrice);
  if (cents === null) return unread({ unitPrice: 'Say what the unit costs without drives: write 440 or 439.90.' });
  return {
    newUnit: {
      profile: family,
      bays: Number(bays),
      scheme: scheme as Scheme,
      ...(factsOf(scheme as Scheme).isGrouped ? { groupWidth: Number(width) } : {}),
      cents,
    },
  };
}

/** The pool that is proposed: as the one there is, or one that may lose as many and wastes no half of its drives. */
function usualOf({ schemes }: FamilyToBuy, now: Scheme): Scheme | undefined {
  const wanted = Math.max(1, factsOf(now).redundancy ?? 1);
  const isAsSafe = (scheme: Scheme): boolean =>
    factsOf(scheme).built !== 'pairs' && (factsOf(scheme).redundancy ?? 0) >= wanted;
  return schemes.find((scheme) => scheme === now) ?? schemes.find(isAsSafe) ?? schemes.at(-1);
}

/** Whether a new unit may be bought, of which family, with which pool, and what it costs. */
export function NewUnitFields({
  families,
  scheme,
}: {
  readonly families: readonly FamilyToBuy[];
  /** Of the pool as it is: taken over where the family has it. */
  readonly scheme: Scheme;
}): ReactNode {
  const { setValue } = useFormContext();
  const [family, pool] = useWatch({ name: ['family', 'scheme'] }) as [string, Scheme | ''];
  const chosen = families.find(({ id }) => id === family);
  return (
    <div className="grid grid-cols-[2fr_1fr] items-end gap-4">
      <SelectField
        name="family"
        label="A new unit may be bought"
        options={[
          { value: NO_UNIT, words: 'no' },
          ...families.map(({ id, name }) => ({ value: id, words: `yes, ${name}` })),
        ]}
        onChosen={(id) => {
          const to = families.find((one) => one.id === id);
          setValue('bays', String(to?.choices.at(-1) ?? ''));
          setValue('scheme', (to && usualOf(to, scheme)) ?? '');
        }}
      />
      {chosen && (
        <>
          <SelectField
            name="bays"
            label="Its bays"
            options={chosen.choices.map((bays) => ({ value: String(bays), words: String(bays) }))}
          />
          <SelectField
            name="scheme"
            label="Its pool"
            options={chosen.schemes.map((one) => ({ value: one, words: schemeWords(one) }))}
          />
          {pool !== '' && factsOf(pool).isGrouped && (
            <NumberField name="width" label="Group width" unit="drives" min={2} max={MOST_DRIVES_NAMED} />
          )}
          <TextField name="unitPrice" label="Its price, without drives" inputMode="decimal" />
        </>
      )}
    </div>
  );
}
