'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { UnitName } from '~/service/units/readUnitNames';
import { PickLine } from '~/web/parts/form/PickLine';

interface Props {
  readonly id: string;
  readonly others: readonly UnitName[];
  readonly to: string;
}

/** The unit it is to be moved to; the choice stands in the address. */
export function MoveTo({ id, others, to }: Props): ReactNode {
  const router = useRouter();
  return (
    <div className="max-w-[420px]">
      <PickLine
        label="To"
        value={to}
        onValue={(other) => router.push(`/units/${id}/move?to=${other}`)}
        options={others.map(({ id: other, name, site }) => ({ value: other, words: `${name}, ${site}` }))}
      />
    </div>
  );
}
