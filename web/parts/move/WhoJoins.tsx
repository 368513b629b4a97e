'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { UnitName } from '~/service/units/readUnitNames';
import { Tick } from '~/web/parts/form/Tick';

interface Props {
  readonly id: string;
  readonly others: readonly UnitName[];
  readonly chosen: readonly string[];
}

/** Which units join this one; the choice stands in the address. */
export function WhoJoins({ id, others, chosen }: Props): ReactNode {
  const router = useRouter();
  const choose = (other: string, isOn: boolean): void => {
    const next = isOn ? [...chosen, other] : chosen.filter((one) => one !== other);
    const from = new URLSearchParams(next.map((one) => ['from', one]));
    router.push(`/units/${id}/merge${next.length === 0 ? '' : `?${from.toString()}`}`, { scroll: false });
  };
  return (
    <fieldset className="max-w-[720px]">
      <legend className="mb-1 font-semibold">Which units join it</legend>
      <div className="grid gap-x-6 gap-y-1 sm:grid-cols-2">
        {others.map(({ id: other, name, site }) => (
          <Tick
            key={other}
            words={`${name}, ${site}`}
            isOn={chosen.includes(other)}
            onChange={(isOn) => choose(other, isOn)}
          />
        ))}
      </div>
    </fieldset>
  );
}
