'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { PickLine } from '~/web/parts/form/PickLine';

interface Props {
  /** The address of the plan without it. */
  readonly address: string;
  readonly isAdded: boolean;
  /** Why it cannot be added. */
  readonly whyNot: string | undefined;
}

/** What becomes of the one old drive at the very end; the choice stands in the address. */
export function OldDrive({ address, isAdded, whyNot }: Props): ReactNode {
  const router = useRouter();
  if (whyNot !== undefined) return <p className="text-muted">The old drives stay as they are at the end. {whyNot}</p>;
  return (
    <div className="max-w-[420px]">
      <PickLine
        label="The old drive, at the very end"
        hint="It is wiped only when another copy is proven."
        value={isAdded ? 'added' : 'kept'}
        onValue={(value) => router.push(value === 'added' ? `${address}&old=added` : address)}
        options={[
          { value: 'kept', words: 'stays as it is' },
          { value: 'added', words: 'becomes the second drive of the new pool' },
        ]}
      />
    </div>
  );
}
