'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { PickLine } from '~/web/parts/form/PickLine';

interface Props {
  /** The address of the plan without it. */
  readonly address: string;
  readonly joins: boolean;
  readonly old: string;
  readonly newer: string;
}

/** By which name people find the data afterwards; the choice stands in the address. */
export function WhoseAddress({ address, joins, old, newer }: Props): ReactNode {
  const router = useRouter();
  return (
    <div className="max-w-[420px]">
      <PickLine
        label={`The name and address of ${newer}`}
        hint={
          joins
            ? `Whoever used ${old} is pointed to ${newer}.`
            : `${newer} takes those of ${old} over, once it is off: nobody has to change anything.`
        }
        value={joins ? 'kept' : 'taken-over'}
        onValue={(value) => router.push(`${address}&address=${value}`)}
        options={[
          { value: 'taken-over', words: `become those of ${old}` },
          { value: 'kept', words: 'stay: it serves others already' },
        ]}
      />
    </div>
  );
}
