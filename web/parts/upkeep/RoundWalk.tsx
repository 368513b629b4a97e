'use client';
import Link from '~/web/parts/frame/Link';
import { useState, type ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { ButtonLink } from '~/web/parts/form/Button';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
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
  /** Work that runs in a pool, one for each. */
  readonly work: readonly { readonly pool: string; readonly words: string; readonly percent: number }[];
  readonly roundAt: string | null;
}

interface Walked {
  readonly words: string;
  /** Where what was seen and the record part, for somebody to look at. */
  readonly doubts: readonly string[];
}

interface Props {
  readonly stops: readonly Stop[];
  readonly sites: readonly string[];
  readonly site: string | undefined;
}

/** Every unit in turn: tap what is lit, count the drives seen, type the fill and how far work is. Ten seconds a unit. */
export function RoundWalk({ stops, sites, site }: Props): ReactNode {
  const [at, setAt] = useState(0);
  const [walked, setWalked] = useState<Readonly<Record<string, Walked>>>({});
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
          onWalked={(one) => {
            setWalked({ ...walked, [stop.id]: one });
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
                  : {walked[id]?.words ?? 'passed by'}
                  {walked[id]?.doubts.map((doubt) => (
                    <p key={doubt} className="text-watch">
                      {doubt}
                    </p>
                  ))}
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
  readonly onWalked: (walked: Walked) => void;
  readonly onPass: () => void;
}

interface Values {
  readonly lit: readonly string[];
  readonly count: string;
  /** What was typed of each pool, and of the work in it, in their order. */
  readonly fill: readonly { readonly percent: string }[];
  readonly work: readonly { readonly percent: string }[];
}

function StopForm({ stop, at, of, onWalked, onPass }: StopProps): ReactNode {
  const sheet = useSheet<Values, 'POST /units/{id}/rounds'>({
    start: {
      lit: stop.signs,
      // Nobody has counted before somebody has.
      count: '',
      fill: stop.pools.map(() => ({ percent: '' })),
      work: stop.work.map(() => ({ percent: '' })),
    },
    keep: `round of ${stop.id} at ${String(stop.version)}`,
    sends: 'POST /units/{id}/rounds',
    at: { count: '/seen', lit: '/signs' },
    asks: ({ lit, count, fill, work }) => {
      const faults: Record<string, string> = {};
      const read = (text: string, name: string, most: number): number | null => {
        const value = Number(text.trim().replace(/ ?%$/, '').replace(',', '.'));
        if (text.trim() === '') return null;
        if (Number.isFinite(value) && value >= 0 && value <= most) return value;
        faults[name] = `A percentage, 0 to ${String(most)}.`;
        return null;
      };
      const used = stop.pools.flatMap(({ id }, i) => {
        const percent = read(fill[i]?.percent ?? '', `fill.${String(i)}.percent`, MOST_FULL);
        return percent === null ? [] : [{ pool: id, share: percent / 100 }];
      });
      const progress = stop.work.flatMap(({ pool }, i) => {
        const percent = read(work[i]?.percent ?? '', `work.${String(i)}.percent`, 100);
        return percent === null ? [] : [{ pool, percent }];
      });
      if (count.trim() !== '' && !/^\d{1,4}$/.test(count.trim())) faults['count'] = 'A whole number of drives.';
      if (Object.keys(faults).length > 0) return unread(faults);
      return {
        id: stop.id,
        body: {
          expectedVersion: stop.version,
          signs: [...lit],
          ...(count.trim() === '' ? {} : { seen: Number(count) }),
          ...(used.length === 0 ? {} : { used }),
          ...(progress.length === 0 ? {} : { progress }),
        },
      };
    },
    done: ({ doubtful }, { lit, count }) => {
      const seen = count.trim() === '' ? null : Number(count);
      const odd = [
        ...lit,
        ...(seen !== null && seen !== stop.expected ? [`${String(seen)} of ${String(stop.expected)} drives seen`] : []),
      ];
      onWalked({
        words:
          odd.length > 0
            ? odd.join('; ')
            : seen === null
              ? 'nothing lit'
              : `nothing lit, all ${String(seen)} drives seen`,
        doubts: doubtful.filter(({ code }) => code !== 'count').map(({ sentence }) => sentence),
      });
    },
  });
  const lit = useWatch({ control: sheet.form.control, name: 'lit' });
  const options = [...new Set([...stop.signs, ...stop.lamps])];
  return (
    <div className="grid gap-4 border border-line bg-surface p-4">
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
      <Sheet
        of={sheet}
        sends={lit.length === 0 ? 'Nothing lit, next' : 'Record, next'}
        onCancel={onPass}
        cancels="Pass by"
      >
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
                  onClick={() =>
                    sheet.form.setValue('lit', isLit ? lit.filter((one) => one !== see) : [...lit, see], {
                      shouldDirty: true,
                    })
                  }
                >
                  {see}
                </button>
              );
            })}
          </div>
        </fieldset>
        <div className="grid grid-cols-2 items-start gap-4">
          <TextField
            name="count"
            label="Drives seen"
            inputMode="numeric"
            hint={`Count those lit and in; ${String(stop.expected)} expected. Left empty: not counted`}
          />
          {stop.pools.map(({ id, name, percent }, i) => (
            <TextField
              key={id}
              name={`fill.${String(i)}.percent`}
              label={`${name}, % full`}
              inputMode="decimal"
              placeholder={percent === null ? '' : String(percent)}
            />
          ))}
          {stop.work.map(({ pool, words, percent }, i) => (
            <TextField
              key={pool}
              name={`work.${String(i)}.percent`}
              label={`${words}, it shows %`}
              inputMode="decimal"
              hint={`Last heard ${String(percent)} %`}
            />
          ))}
        </div>
      </Sheet>
    </div>
  );
}

/** Snapshots may hold more than the pool. */
const MOST_FULL = 150;
