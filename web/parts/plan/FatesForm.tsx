'use client';
import { useState, type ReactNode } from 'react';
import { fateWords, type Fate } from '~/core/plan/engine/fateWords';
import type { StepEvidence } from '~/core/plan/plan';
import type { Place } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { keepText, parseKept, useKept } from '~/web/parts/form/kept';
import { Radios } from '~/web/parts/form/Radios';
import { Tick } from '~/web/parts/form/Tick';
import { Serial } from '~/web/parts/unit/Serial';

interface Props {
  /** The plan and the step: what was decided is kept in this browser until it is confirmed. */
  readonly of: string;
  readonly serials: readonly string[];
  /** Where the unit stands: a drawer is usually near. */
  readonly place: Pick<Place, 'site' | 'room'>;
  readonly busy: boolean;
  readonly onEvidence: (evidence: Extract<StepEvidence, { kind: 'fates' }>) => void;
}

type Goes = Fate['goes']['kind'];

const GOES: readonly { readonly value: Goes; readonly words: string }[] = [
  { value: 'stays', words: 'Kept as it is for now, marked with what it is' },
  { value: 'drawer', words: 'Into a drawer' },
  { value: 'warranty', words: 'Back under warranty' },
  { value: 'away', words: 'Sent away: to e-waste, a shredder, another owner' },
];
const METHODS = [
  { value: 'clear', words: 'Clear: written over once' },
  { value: 'purge', words: 'Purge: by its own erase command' },
  { value: 'destroy', words: 'Destroy: shredded' },
];

/** What becomes of drives that left: each by itself, or several alike at once. */
export function FatesForm({ of, serials, place, busy, onEvidence }: Props): ReactNode {
  const key = `shelf-fates:${of}`;
  const decided = parseKept<readonly Fate[]>(useKept(key), []);
  const open = serials.filter((serial) => !decided.some((one) => one.serial === serial));
  const [left, setLeft] = useState<readonly string[]>([]);
  const chosen = open.filter((serial) => !left.includes(serial));
  const [goes, setGoes] = useState<Goes | ''>('');
  const [isWiped, setIsWiped] = useState(false);
  const [typed, setTyped] = useState({
    site: place.site,
    room: place.room,
    drawer: '',
    to: '',
    claim: '',
    method: '',
    how: '',
    by: '',
    checked: false,
  });
  const set = (part: Partial<typeof typed>): void => setTyped({ ...typed, ...part });
  const whereTo = (): Fate['goes'] | null => {
    const { site, room, drawer, to, claim } = typed;
    if (goes === 'stays') return { kind: 'stays' };
    if (goes === 'drawer')
      return site.trim() && room.trim() && drawer.trim()
        ? { kind: 'drawer', site: site.trim(), room: room.trim(), drawer: drawer.trim() }
        : null;
    if (goes === '' || to.trim() === '') return null;
    return goes === 'away'
      ? { kind: 'away', to: to.trim() }
      : { kind: 'warranty', to: to.trim(), ...(claim.trim() === '' ? {} : { claim: claim.trim() }) };
  };
  const { method, how, by, checked } = typed;
  const wiped = { method: method as 'clear', how: how.trim(), by: by.trim(), checked };
  const where = whereTo();
  const isReady = where !== null && (!isWiped || (method !== '' && wiped.how !== '' && wiped.by !== ''));
  const made = (): readonly Fate[] =>
    where ? chosen.map((serial) => ({ serial, ...(isWiped ? { wiped } : {}), goes: where })) : [];
  const keep = (list: readonly Fate[]): void => keepText(key, list.length === 0 ? '' : JSON.stringify(list));
  const submit = (): void => {
    if (open.length === 0) return onEvidence({ kind: 'fates', fates: [...decided] });
    if (!isReady || chosen.length === 0) return undefined;
    // Of one there is nothing to go through once more.
    if (serials.length === 1) return onEvidence({ kind: 'fates', fates: [...made()] });
    keep([...decided, ...made()]);
    setGoes('');
    setIsWiped(false);
    setLeft([]);
    return undefined;
  };
  const field = (
    name: 'site' | 'room' | 'drawer' | 'to' | 'claim' | 'how' | 'by',
    label: string,
    most: number,
  ): ReactNode => (
    <Field
      label={label}
      name={name}
      value={typed[name]}
      maxLength={most}
      autoComplete="off"
      onChange={(event) => set({ [name]: event.target.value })}
    />
  );
  return (
    <form
      data-evidence
      data-fates={open.length}
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      {decided.length > 0 && (
        <ul className="grid gap-1 border border-line bg-surface p-2" aria-label="Decided">
          {decided.map((one) => (
            <li key={one.serial} className="flex min-h-9 items-center gap-3 px-2 max-sm:min-h-11">
              <span aria-hidden>✓</span>
              <span className="min-w-0 flex-1">
                <Serial of={one.serial} />: {fateWords(one)}
              </span>
              <button
                type="button"
                className="min-h-9 text-sm text-action underline max-sm:min-h-11"
                aria-label={`Again, ${one.serial}`}
                onClick={() => keep(decided.filter((other) => other !== one))}
              >
                Again
              </button>
            </li>
          ))}
        </ul>
      )}
      {open.length > 0 && (
        <>
          {open.length > 1 && (
            <fieldset>
              <legend className="mb-1 font-semibold">Which of them</legend>
              <div className="grid sm:grid-cols-2">
                {open.map((serial) => (
                  <Tick
                    key={serial}
                    words={<Serial of={serial} />}
                    isOn={chosen.includes(serial)}
                    onChange={(isOn) => setLeft(isOn ? left.filter((one) => one !== serial) : [...left, serial])}
                  />
                ))}
              </div>
            </fieldset>
          )}
          <Radios
            legend="Where it goes"
            name="goes"
            options={GOES}
            value={goes}
            onValue={(value) => setGoes(value as Goes)}
          />
          {goes === 'drawer' && (
            <div className="grid gap-4 sm:grid-cols-3">
              {field('site', 'Site', 60)}
              {field('room', 'Room', 60)}
              {field('drawer', 'Drawer', 60)}
            </div>
          )}
          {(goes === 'warranty' || goes === 'away') && field('to', 'To whom', 120)}
          {goes === 'warranty' && field('claim', 'Number of the claim', 60)}
          <Tick words="It was wiped" name="wiped" isOn={isWiped} onChange={setIsWiped} />
          {isWiped && (
            <div className="grid gap-4">
              <Radios
                legend="How thoroughly"
                name="method"
                options={METHODS}
                value={method}
                onValue={(value) => set({ method: value })}
              />
              {field('how', 'With what', 200)}
              {field('by', 'By whom', 120)}
              <Tick
                words="Looked at afterwards: nothing can be read"
                name="checked"
                isOn={checked}
                onChange={(isOn) => set({ checked: isOn })}
              />
            </div>
          )}
        </>
      )}
      <div>
        <Button
          look="main"
          type="submit"
          className="min-h-11 min-w-[160px]"
          disabled={busy || (open.length > 0 && (!isReady || chosen.length === 0))}
        >
          {open.length === 0
            ? 'So it was done with each'
            : serials.length === 1
              ? 'Write it down'
              : `So with ${chosen.length === 1 ? 'this one' : `these ${String(chosen.length)}`}`}
        </Button>
      </div>
    </form>
  );
}
