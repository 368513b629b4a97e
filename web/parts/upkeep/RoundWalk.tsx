'use client';
import Link from '~/web/parts/frame/Link';
import { useState, type ReactNode } from 'react';
import { Button, ButtonLink } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { ViewLinks } from '~/web/parts/frame/ViewLinks';
import { Moment } from '~/web/parts/unit/Moment';

export interface Stop {
  readonly id: string;
  readonly version: number;
  readonly name: string;
  readonly place: string;
  readonly expected: number;
  readonly lamps: readonly string[];
  readonly signs: readonly string[];
  readonly pools: readonly { readonly id: string; readonly name: string; readonly percent: number | null }[];
  readonly roundAt: string | null;
}

interface Props {
  readonly stops: readonly Stop[];
  readonly sites: readonly string[];
  readonly site: string | undefined;
}

/** Every unit in turn: tap what is lit, count the drives seen, type the fill. Ten seconds a unit. */
export function RoundWalk({ stops, sites, site }: Props): ReactNode {
  const [at, setAt] = useState(0);
  const [walked, setWalked] = useState<Readonly<Record<string, string>>>({});
  const stop = stops[at];
  const seen = Object.values(walked);
  return (
    <div className="grid gap-4">
      {sites.length > 1 && (
        <ViewLinks
          label="Sites"
          links={[
            { href: '/round', words: 'Everywhere', isHere: site === undefined },
            ...sites.map((one) => ({
              href: `/round?site=${encodeURIComponent(one)}`,
              words: one,
              isHere: one === site,
            })),
          ]}
        />
      )}
      {stops.length === 0 && <p className="text-muted">No unit stands here.</p>}
      {stop ? (
        <StopForm
          key={stop.id}
          stop={stop}
          at={at + 1}
          of={stops.length}
          onWalked={(words) => {
            setWalked({ ...walked, [stop.id]: words });
            setAt(at + 1);
          }}
          onPass={() => setAt(at + 1)}
        />
      ) : (
        stops.length > 0 && (
          <section aria-label="Walked" data-round-done>
            <h2 className="text-lg">The round is done</h2>
            <p className="text-muted">
              {seen.length} of {stops.length} units looked at.
            </p>
            <ul className="my-3">
              {stops.map(({ id, name }) => (
                <li key={id} className="border-b border-line py-1">
                  <Link href={`/units/${id}`} className="font-semibold underline decoration-line">
                    {name}
                  </Link>
                  : {walked[id] ?? 'passed by'}
                </li>
              ))}
            </ul>
            <ButtonLink look="main" href="/">
              Back to the shelf
            </ButtonLink>
          </section>
        )
      )}
    </div>
  );
}

interface StopProps {
  readonly stop: Stop;
  readonly at: number;
  readonly of: number;
  readonly onWalked: (words: string) => void;
  readonly onPass: () => void;
}

function StopForm({ stop, at, of, onWalked, onPass }: StopProps): ReactNode {
  const { busy, fault, run } = useSending();
  const [lit, setLit] = useState<readonly string[]>(stop.signs);
  const [count, setCount] = useState(String(stop.expected));
  const [fill, setFill] = useState<Readonly<Record<string, string>>>({});
  const options = [...new Set([...stop.signs, ...stop.lamps])];

  const submit = async (): Promise<void> => {
    const used = stop.pools.flatMap(({ id }) => {
      const typed = (fill[id] ?? '').replace(',', '.').trim();
      return typed === '' || !Number.isFinite(Number(typed)) ? [] : [{ pool: id, share: Number(typed) / 100 }];
    });
    const seen = count.trim() === '' ? stop.expected : Number(count);
    const answer = await run('POST /units/{id}/rounds', {
      id: stop.id,
      body: {
        expectedVersion: stop.version,
        signs: lit,
        ...(Number.isInteger(seen) && count.trim() !== '' ? { seen } : {}),
        ...(used.length === 0 ? {} : { used }),
      },
    });
    if (answer)
      onWalked(
        lit.length === 0 && seen === stop.expected
          ? 'all well'
          : [...lit, ...(seen < stop.expected ? [`${count} of ${String(stop.expected)} drives seen`] : [])].join(
              '; ',
            ) || 'looked at',
      );
  };
  return (
    <form
      className="grid gap-4 border border-line bg-surface p-4"
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-xl">{stop.name}</h2>
        <span className="text-muted">
          {at} of {of}
        </span>
      </div>
      <p className="-mt-3 text-muted">
        {stop.place}
        {stop.roundAt !== null && (
          <>
            , last looked at <Moment at={stop.roundAt} relative />
          </>
        )}
      </p>
      {fault && <Notice grave>{fault.sentence}</Notice>}
      <fieldset>
        <legend className="mb-1 font-semibold">Anything lit or heard?</legend>
        <div className="grid gap-1.5">
          {options.map((see) => {
            const isLit = lit.includes(see);
            return (
              <button
                key={see}
                type="button"
                aria-pressed={isLit}
                className={`min-h-11 border px-3 py-2 text-left ${isLit ? 'border-watch bg-watch-ground font-semibold' : 'border-line'}`}
                onClick={() => setLit(isLit ? lit.filter((one) => one !== see) : [...lit, see])}
              >
                {see}
              </button>
            );
          })}
        </div>
      </fieldset>
      <div className="grid grid-cols-2 gap-4">
        <Field
          label="Drives seen"
          inputMode="numeric"
          value={count}
          hint={`${String(stop.expected)} expected`}
          autoComplete="off"
          onChange={(event) => setCount(event.target.value)}
        />
        {stop.pools.map(({ id, name, percent }) => (
          <Field
            key={id}
            label={`${name}, % full`}
            inputMode="decimal"
            value={fill[id] ?? ''}
            placeholder={percent === null ? '' : String(percent)}
            autoComplete="off"
            onChange={(event) => setFill({ ...fill, [id]: event.target.value })}
          />
        ))}
      </div>
      <div className="flex justify-between gap-2">
        <Button onClick={onPass}>Pass by</Button>
        <Button look="main" type="submit" disabled={busy} className="min-w-[160px]">
          {lit.length === 0 ? 'All well, next' : 'Record, next'}
        </Button>
      </div>
    </form>
  );
}
