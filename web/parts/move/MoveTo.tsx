'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { UnitName } from '~/service/units/readUnitNames';
import { PickLine } from '~/web/parts/form/PickLine';

/** A family of units, as far as it has to be described. */
export interface FamilyToDescribe {
  readonly id: string;
  readonly name: string;
  readonly choices: readonly number[];
}

interface Props {
  readonly id: string;
  readonly others: readonly UnitName[];
  readonly families: readonly FamilyToDescribe[];
  readonly to: string;
  /** The one that is described, where it is not on the shelf. */
  readonly described: { readonly profile: string; readonly bays: number } | null;
}

const NOT_ON_SHELF = 'not-on-shelf';

/** The unit it is to be moved to, on the shelf or described; the choice stands in the address. */
export function MoveTo({ id, others, families, to, described }: Props): ReactNode {
  const router = useRouter();
  const [usual] = families;
  const describe = (family: FamilyToDescribe | undefined, bays = family?.choices[0]): void => {
    if (family) router.push(`/units/${id}/move?family=${family.id}&bays=${String(bays)}`);
  };
  const family = families.find((one) => one.id === described?.profile);
  return (
    <div className="grid max-w-[640px] items-end gap-x-4 gap-y-2 sm:grid-cols-[2fr_2fr_1fr]">
      <PickLine
        label="To"
        value={described ? NOT_ON_SHELF : to}
        onValue={(other) => (other === NOT_ON_SHELF ? describe(usual) : router.push(`/units/${id}/move?to=${other}`))}
        options={[
          ...others.map(({ id: other, name, site }) => ({ value: other, words: `${name}, ${site}` })),
          { value: NOT_ON_SHELF, words: 'One that is not on the shelf yet' },
        ]}
      />
      {described && (
        <>
          <PickLine
            label="Its family"
            value={described.profile}
            onValue={(profile) => describe(families.find((one) => one.id === profile))}
            options={families.map((one) => ({ value: one.id, words: one.name }))}
          />
          <PickLine
            label="Its bays"
            value={String(described.bays)}
            onValue={(bays) => describe(family, Number(bays))}
            options={(family?.choices ?? [described.bays]).map((bays) => ({
              value: String(bays),
              words: String(bays),
            }))}
          />
        </>
      )}
    </div>
  );
}
