'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { Tick } from '~/web/parts/form/Tick';

interface Props {
  /** The address of the plan without it. */
  readonly address: string;
  readonly parts: readonly { readonly id: string; readonly name: string }[];
  /** Those that go; all of them, where nothing was chosen. */
  readonly chosen: readonly string[];
  readonly old: string;
}

/** What of the old unit is copied: all of it, or a part, and the rest stays; the choice stands in the address. */
export function WhatGoes({ address, parts, chosen, old }: Props): ReactNode {
  const router = useRouter();
  const choose = (id: string, isOn: boolean): void => {
    const next = isOn ? [...chosen, id] : chosen.filter((one) => one !== id);
    const only = next.length === parts.length ? [] : next.map((one) => ['only', one]);
    const query = new URLSearchParams(only).toString();
    router.push(query === '' ? address : `${address}&${query}`, { scroll: false });
  };
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">What goes</legend>
      {parts.map(({ id, name }) => (
        <Tick
          key={id}
          words={name}
          isOn={chosen.includes(id)}
          // Something goes.
          isOff={chosen.length === 1 && chosen.includes(id)}
          onChange={(isOn) => choose(id, isOn)}
        />
      ))}
      {chosen.length < parts.length && (
        <p className="text-sm text-muted">What is not ticked stays in {old}, which goes on as it is.</p>
      )}
    </fieldset>
  );
}
