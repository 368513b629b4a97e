'use client';
import type { ReactNode } from 'react';
import { factsOf } from '~/core/layout/scheme';
import type { Pool } from '~/core/unit/state';
import { PickLine } from '~/web/parts/form/PickLine';

interface Props {
  readonly pools: readonly Pool[];
  readonly value: string;
  readonly onPool: (id: string) => void;
}

/** Which pool of the unit, where it has several. */
export function PoolPick({ pools, value, onPool }: Props): ReactNode {
  return pools.length < 2 ? null : (
    <div className="max-w-[420px]">
      <PickLine
        label="Pool"
        value={value}
        onValue={onPool}
        options={pools.map(({ id, name, scheme }) => ({ value: id, words: `${name}, ${factsOf(scheme).name}` }))}
      />
    </div>
  );
}
