'use client';
import { useMemo, type ReactNode } from 'react';
import { bayName } from '~/core/unit/bayName';
import { baysListed } from '~/core/unit/baysListed';
import { factsOf, type Scheme } from '~/core/layout/scheme';
import { readReport } from '~/core/report/readReport';
import type { PoolInWords } from '~/core/report/readRunning';
import type { Profile } from '~/core/platform/profile';
import type { UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { AreaField, Field } from '~/web/parts/form/Field';

/** A pool of a running unit while it is being written down, with a key of its own on the page. */
export type PoolRow = PoolInWords & { readonly key: string };

export function newPoolRow(key: string, nth: number): PoolRow {
  return { key, name: `Pool ${String(nth)}`, scheme: '', members: '', spares: '', shown: '', used: '', builtOn: '', volumes: '', groupWidth: '' };
}

interface Props {
  readonly boxes: Pick<UnitState, 'enclosures'> & { readonly profile: Pick<Profile, 'unitPage'> };
  readonly schemes: readonly Scheme[];
  readonly page: string;
  readonly setPage: (text: string) => void;
  readonly boughtOn: string;
  readonly setBoughtOn: (day: string) => void;
  readonly cache: string;
  readonly setCache: (bays: string) => void;
  readonly pools: readonly PoolRow[];
  readonly setPools: (pools: readonly PoolRow[]) => void;
  readonly addPool: () => void;
  readonly faults: Readonly<Record<string, string>>;
}

/** What a unit that runs already shows on its page: its drives pasted, its pools named. Nothing on it is touched. */
export function RunningPart({ boxes, schemes, page, setPage, boughtOn, setBoughtOn, cache, setCache, pools, setPools, addPool, faults }: Props): ReactNode {
  const report = useMemo(() => readReport(page, { ...boxes, drives: {} }), [boxes, page]);
  const change = (key: string, part: Partial<PoolRow>): void => setPools(pools.map((pool) => (pool.key === key ? { ...pool, ...part } : pool)));
  const exampleBay = boxes.enclosures.length > 1 ? `${boxes.enclosures[0]?.name ?? 'Head'} 1-4; ${boxes.enclosures[1]?.name ?? ''} 1-2` : '1-4';
  return (
    <div className="grid gap-5" data-running>
      <AreaField
        label="Its drives, pasted from its page"
        className="font-mono"
        rows={8}
        value={page}
        placeholder={'Bay 1  QH8-04422-4KH2  7.3 TB  Normal\nBay 2  QH8-04417-77PX  7.3 TB  Normal'}
        onChange={(event) => setPage(event.target.value)}
        fault={faults['drives']}
        hint={
          page.trim() === '' ? (
            <>A line a drive: where it is, its serial, its size. {boxes.enclosures.length > 1 && 'A line with the name of a box stands above its drives.'}</>
          ) : (
            <span aria-live="polite">
              {counted(
                boxes,
                report.bays.filter(({ state }) => state !== 'empty').map(({ bay }) => bay),
              )}{' '}
              read.
              {report.unread.length > 0 && (
                <span className="font-semibold text-thinned">
                  {' '}
                  Not understood: {report.unread.map(({ line, text }) => `line ${String(line)} “${text}”`).join('; ')}
                </span>
              )}
            </span>
          )
        }
      />
      <div className="grid gap-4 sm:grid-cols-2">
        <Field
          label="Its drives were bought on"
          type="date"
          value={boughtOn}
          hint="For all of them; left empty where nobody knows, and said of single ones later"
          onChange={(event) => setBoughtOn(event.target.value)}
          fault={faults['drives/0/boughtOn']}
        />
        <Field
          label="Bays of its cache drives"
          value={cache}
          hint={cache.trim() === '' ? 'Left empty where it has none' : echo(boxes, cache)}
          onChange={(event) => setCache(event.target.value)}
          fault={faults['cache'] ?? faults['cache/0']}
        />
      </div>
      {pools.map((pool, i) => {
        const fault = (field: string): string | undefined =>
          faults[`pools/${String(i)}/${field}`] ?? (field === 'members' ? faults[`pools/${String(i)}`] : undefined);
        return (
          <fieldset key={pool.key} className="grid gap-4 border border-line bg-surface p-4 sm:grid-cols-2" aria-label={`Pool ${String(i + 1)}`}>
            <Field
              label="Name of the pool"
              value={pool.name}
              required
              maxLength={60}
              onChange={(event) => change(pool.key, { name: event.target.value })}
              fault={fault('name')}
            />
            <label className="block">
              <span className="mb-1 block font-semibold">Layout</span>
              <select className="field" value={pool.scheme} required onChange={(event) => change(pool.key, { scheme: event.target.value as Scheme })}>
                <option value="" disabled>
                  Which one?
                </option>
                {schemes.map((scheme) => (
                  <option key={scheme} value={scheme}>
                    {factsOf(scheme).name}
                  </option>
                ))}
              </select>
              {fault('scheme') !== undefined && <span className="mt-1 block text-sm font-semibold text-thinned">{fault('scheme')}</span>}
            </label>
            {pool.scheme !== '' && factsOf(pool.scheme).isGrouped && (
              <Field
                label="Drives in a group"
                type="number"
                min={2}
                max={1000}
                value={pool.groupWidth}
                required
                onChange={(event) => change(pool.key, { groupWidth: event.target.value })}
                fault={fault('groupWidth')}
              />
            )}
            <Field
              label="Bays of its drives"
              value={pool.members}
              required
              placeholder={exampleBay}
              hint={echo(boxes, pool.members)}
              onChange={(event) => change(pool.key, { members: event.target.value })}
              fault={fault('members')}
            />
            <Field
              label="Bays of its spares"
              value={pool.spares}
              hint={echo(boxes, pool.spares)}
              onChange={(event) => change(pool.key, { spares: event.target.value })}
              fault={fault('spares')}
            />
            <Field
              label="Space it shows"
              value={pool.shown}
              hint={`As its page writes it, “21.4 ${boxes.profile.unitPage.prints}”. Left empty, it is reckoned.`}
              onChange={(event) => change(pool.key, { shown: event.target.value })}
              fault={fault('shownBytes')}
            />
            <Field label="Space in use" value={pool.used} onChange={(event) => change(pool.key, { used: event.target.value })} fault={fault('usedBytes')} />
            <Field
              label="Built on"
              type="date"
              value={pool.builtOn}
              hint="Left empty where nobody knows"
              onChange={(event) => change(pool.key, { builtOn: event.target.value })}
              fault={fault('builtAt')}
            />
            <AreaField
              label="Its volumes"
              rows={2}
              value={pool.volumes}
              placeholder={`Office 12 ${boxes.profile.unitPage.prints} thin`}
              hint="One a line: name, size, and “thin” where it is"
              onChange={(event) => change(pool.key, { volumes: event.target.value })}
              fault={fault('volumes')}
            />
            <div className="sm:col-span-2">
              <Button onClick={() => setPools(pools.filter(({ key }) => key !== pool.key))}>
                Leave it out<span className="sr-only"> {pool.name}</span>
              </Button>
            </div>
          </fieldset>
        );
      })}
      <div>
        <Button onClick={addPool}>Add a pool it has</Button>
      </div>
    </div>
  );
}

/** What a list of bays means, said back while it is typed. */
function echo(boxes: Pick<UnitState, 'enclosures'>, words: string): string {
  if (words.trim() === '') return ' ';
  const bays = baysListed(boxes, words);
  return isRefusal(bays) ? bays.sentence : counted(boxes, bays);
}

function counted(boxes: Pick<UnitState, 'enclosures'>, bays: readonly string[]): string {
  if (bays.length === 1) return `One drive, ${bayName(boxes, bays[0])}`;
  return bays.length === 0 ? 'No drive' : `${String(bays.length)} drives, ${bayName(boxes, bays[0])} to ${bayName(boxes, bays.at(-1))}`;
}
