'use client';
import { useMemo, type ReactNode } from 'react';
import { useFieldArray, useFormContext, useWatch } from 'react-hook-form';
import { factsOf, type Scheme } from '~/core/layout/scheme';
import type { Profile } from '~/core/platform/profile';
import { readPage } from '~/core/observe/readPage';
import type { PoolInWords } from '~/core/observe/readRunning';
import { bayName } from '~/core/unit/bayName';
import { baysListed } from '~/core/unit/baysListed';
import type { UnitState } from '~/core/unit/state';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { AreaField, DateField, NumberField, TextField } from '~/web/parts/form/fields/TextField';

type Boxes = Pick<UnitState, 'enclosures'> & { readonly profile: Pick<Profile, 'unitPage'> };

/** The part of a unit's form about what runs on it. */
export interface RunningValues {
  /** Its drives, as its page shows them. */
  readonly page: string;
  readonly drivesBoughtOn: string;
  readonly cache: string;
  readonly pools: readonly PoolInWords[];
}

const NEW_POOL: Omit<PoolInWords, 'name'> = {
  scheme: '',
  members: '',
  spares: '',
  shown: '',
  used: '',
  builtOn: '',
  volumes: '',
  groupWidth: '',
};

/** What a unit that runs already shows on its page: its drives pasted, its pools named. Nothing on it is touched. */
export function RunningPart({
  boxes,
  schemes,
}: {
  readonly boxes: Boxes;
  readonly schemes: readonly Scheme[];
}): ReactNode {
  const { control } = useFormContext<RunningValues>();
  const { fields, append, remove } = useFieldArray({ control, name: 'pools' });
  const [page, cache] = useWatch<RunningValues, ['page', 'cache']>({ name: ['page', 'cache'] });
  const report = useMemo(() => readPage(page, { ...boxes, drives: {} }), [boxes, page]);
  return (
    <div className="grid gap-5" data-running>
      <AreaField
        name="page"
        label="Its drives, pasted from its page"
        className="font-mono"
        rows={8}
        placeholder={'Bay 1  QH8-04422-4KH2  7.3 TB  Normal\nBay 2  QH8-04417-77PX  7.3 TB  Normal'}
        hint={
          page.trim() === '' ? (
            <>
              A line a drive: where it is, its serial, its size.{' '}
              {boxes.enclosures.length > 1 && 'A line with the name of a box stands above its drives.'}
            </>
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
        <DateField
          name="drivesBoughtOn"
          label="Its drives were bought on"
          hint="For all of them; left empty where nobody knows, and said of single ones later"
        />
        <TextField
          name="cache"
          label="Bays of its cache drives"
          hint={cache.trim() === '' ? 'Left empty where it has none' : echo(boxes, cache)}
        />
      </div>
      {fields.map(({ id }, i) => (
        <PoolPart key={id} at={i} boxes={boxes} schemes={schemes} onRemove={() => remove(i)} />
      ))}
      <div>
        <Button onClick={() => append({ ...NEW_POOL, name: `Pool ${String(fields.length + 1)}` })}>
          Add a pool it has
        </Button>
      </div>
    </div>
  );
}

interface PoolProps {
  readonly at: number;
  readonly boxes: Boxes;
  readonly schemes: readonly Scheme[];
  readonly onRemove: () => void;
}

function PoolPart({ at, boxes, schemes, onRemove }: PoolProps): ReactNode {
  const pool = useWatch<RunningValues, `pools.${number}`>({ name: `pools.${at}` });
  const field = (name: keyof PoolInWords): string => `pools.${String(at)}.${name}`;
  const exampleBay =
    boxes.enclosures.length > 1
      ? `${boxes.enclosures[0]?.name ?? 'Head'} 1-4; ${boxes.enclosures[1]?.name ?? ''} 1-2`
      : '1-4';
  const { prints } = boxes.profile.unitPage;
  return (
    <fieldset
      className="grid gap-4 border border-line bg-surface p-4 sm:grid-cols-2"
      aria-label={`Pool ${String(at + 1)}`}
    >
      <TextField name={field('name')} label="Name of the pool" required maxLength={60} />
      <SelectField
        name={field('scheme')}
        label="Layout"
        options={schemes.map((scheme) => ({ value: scheme, words: factsOf(scheme).name }))}
      />
      {pool.scheme !== '' && factsOf(pool.scheme).isGrouped && (
        <NumberField name={field('groupWidth')} label="Drives in a group" min={2} max={1000} required />
      )}
      <TextField
        name={field('members')}
        label="Bays of its drives"
        required
        placeholder={exampleBay}
        hint={echo(boxes, pool.members)}
      />
      <TextField name={field('spares')} label="Bays of its spares" hint={echo(boxes, pool.spares)} />
      <TextField
        name={field('shown')}
        label="Space it shows"
        hint={`As its page writes it, “21.4 ${prints}”. Left empty, it is reckoned.`}
      />
      <TextField name={field('used')} label="Space in use" />
      <DateField name={field('builtOn')} label="Built on" hint="Left empty where nobody knows" />
      <AreaField
        name={field('volumes')}
        label="Its volumes"
        rows={2}
        placeholder={`Office 12 ${prints} thin`}
        hint="One a line: name, size, and “thin” where it is"
      />
      <div className="sm:col-span-2">
        <Button onClick={onRemove}>
          Leave it out<span className="sr-only"> {pool.name}</span>
        </Button>
      </div>
    </fieldset>
  );
}

/** Where the values of this part stand in what is sent. */
export function pointersOfRunning(pools: readonly unknown[]): Record<string, string> {
  return {
    page: '/drives',
    drivesBoughtOn: '/drives/0/boughtOn',
    cache: '/cache',
    ...Object.fromEntries(
      pools.flatMap((_, i) =>
        Object.entries({
          name: 'name',
          scheme: 'scheme',
          spares: 'spares',
          groupWidth: 'groupWidth',
          shown: 'shownBytes',
          used: 'usedBytes',
          builtOn: 'builtAt',
          volumes: 'volumes',
        })
          .map(([field, at]) => [`pools.${String(i)}.${field}`, `/pools/${String(i)}/${at}`])
          // What is wrong with a pool as a whole stands at its drives.
          .concat([[`pools.${String(i)}.members`, `/pools/${String(i)}`]]),
      ),
    ),
  };
}

/** What a list of bays means, said back while it is typed. */
function echo(boxes: Pick<UnitState, 'enclosures'>, words: string): string {
  if (words.trim() === '') return ' ';
  const bays = baysListed(boxes, words);
  return isRefusal(bays) ? bays.sentence : counted(boxes, bays);
}

function counted(boxes: Pick<UnitState, 'enclosures'>, bays: readonly string[]): string {
  if (bays.length === 1) return `One drive, ${bayName(boxes, bays[0])}`;
  return bays.length === 0
    ? 'No drive'
    : `${String(bays.length)} drives, ${bayName(boxes, bays[0])} to ${bayName(boxes, bays.at(-1))}`;
}
