'use client';
import { useState, type ReactNode } from 'react';
import type { ExtendWish } from '~/core/plan/makers/extend';
import { whyNotExtended } from '~/core/unit/enclosures';
import { Field } from '~/web/parts/form/Field';
import { PlanAsk, type PlanFormProps } from './PlanAsk';
import { usePlanTried } from './usePlanTried';

/** One more box behind the last: its name, its bays, its dial, and the plan. */
export function ExtendForm({ unit, ...at }: PlanFormProps): ReactNode {
  const n = unit.enclosures.length;
  const usual = unit.profile.bays.perEnclosure ?? unit.enclosures.at(-1)?.bays.length ?? 12;
  const [typed, setTyped] = useState({ name: `Extension ${String(n)}`, bays: String(usual), dial: String(n) });
  const whole = (text: string): number | null => (/^\d{1,3}$/.test(text.trim()) ? Number(text) : null);
  const [bays, dial] = [whole(typed.bays), whole(typed.dial)];
  const wish: ExtendWish | null =
    typed.name.trim() === '' || bays === null || bays === 0 || dial === null || dial > 255
      ? null
      : { name: typed.name.trim(), bays, dial };
  const tried = usePlanTried('extend', at.id, wish);
  const never = whyNotExtended(unit, 1);
  if (never) return <p className="text-muted">{never.sentence}</p>;
  const field = (label: string, name: keyof typeof typed, hint?: string): ReactNode => (
    <Field
      label={label}
      name={name}
      value={typed[name]}
      autoComplete="off"
      maxLength={name === 'name' ? 60 : 3}
      inputMode={name === 'name' ? 'text' : 'numeric'}
      onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
      {...(hint === undefined ? {} : { hint })}
    />
  );
  return (
    <PlanAsk
      {...at}
      unit={unit}
      job="extend"
      wish={wish}
      tried={tried}
      waiting="Say what the box is called, and its bays."
    >
      <div className="grid max-w-[560px] gap-3 sm:grid-cols-[2fr_1fr_1fr]">
        {field('What it is called', 'name')}
        {field('Bays', 'bays')}
        {field('Number on its dial', 'dial')}
      </div>
      <p className="max-w-[560px] text-muted">
        Its bays are numbered on from those that are there. Choose an hour in which {unit.name} may be off: the card and
        the cables are fitted with every supply unplugged.
      </p>
    </PlanAsk>
  );
}
