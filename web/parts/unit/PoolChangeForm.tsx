'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { groupWidthsThatFit } from '~/core/layout/groupWidths';
import { factsOf, SCHEMES, type Scheme } from '~/core/layout/scheme';
import { limitsOf } from '~/core/platform/profile';
import { usableOf } from '~/core/pool/builtPool';
import { formatBytes } from '~/core/quantity/formatBytes';
import { eventWords } from '~/core/record/eventWords';
import { bayName } from '~/core/unit/bayName';
import { baysListed } from '~/core/unit/baysListed';
import { idleBays, poolChanged, type PoolChange } from '~/core/unit/poolChanged';
import { poolsOf, type Pool, type UnitState } from '~/core/unit/state';
import { isRefusal, type Refusal } from '~/core/value/refusal';
import { FormDialog } from '~/web/parts/form/FormDialog';
import { RadioField, SelectField } from '~/web/parts/form/fields/SelectField';
import { TextField } from '~/web/parts/form/fields/TextField';
import { newId } from '~/web/parts/form/newId';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread } from '~/web/parts/form/sheet/useSheet';
import { HazardCheck } from '~/web/parts/record/HazardCheck';
import { useEventSheet } from '~/web/parts/record/useEventSheet';
import { WayOnButton } from '~/web/parts/way/Refused';
import { wayOn } from '~/web/parts/way/wayOn';
import { useRecord } from '~/web/parts/record/useRecord';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  /** Bytes used by pool, as last read. */
  readonly used: Readonly<Record<string, number>>;
}

type Kind = PoolChange['kind'];

const KINDS: Readonly<Record<Kind, string>> = {
  made: 'A pool was made of drives that stood idle',
  added: 'Drives were added to a pool',
  became: 'The layout of a pool was changed',
  erased: 'A pool was erased',
};

const BAYS: Readonly<Record<Exclude<Kind, 'erased'>, string>> = {
  made: 'Bays of its drives',
  added: 'Bays of the drives that were added',
  became: 'Bays of the drives that came in, if any',
};

interface Values {
  readonly kind: string;
  readonly pool: string;
  readonly name: string;
  readonly scheme: string;
  readonly width: string;
  readonly bays: string;
  readonly spares: string;
}

/** A pool made, grown, changed or erased on a unit in use: what it comes to, before it is recorded. */
export function PoolChangeForm({ id, version, unit, used }: Props): ReactNode {
  const router = useRouter();
  const recorder = useRecord(() => router.push(`/units/${id}`));
  const [newPool] = useState(newId);
  const pools = poolsOf(unit);
  const idle = idleBays(unit);
  const may: Readonly<Record<Kind, boolean>> = {
    made: idle.length > 0,
    added: pools.length > 0 && idle.length > 0,
    became: pools.length > 0,
    erased: pools.length > 0,
  };
  const eventOf = (values: Values): ReturnType<typeof poolChanged> | null => {
    const change = changeOf(unit, values);
    return change === null || isRefusal(change) ? change : poolChanged(unit, change, newPool, used[values.pool] ?? 0);
  };
  const start: Values = {
    kind: may.made && pools.length === 0 ? 'made' : may.added ? 'added' : 'became',
    pool: pools[0]?.id ?? '',
    name: `Pool ${String(pools.length + 1)}`,
    scheme: '',
    width: '',
    bays: '',
    spares: '',
  };
  const sheet = useEventSheet<Values>({
    unit: id,
    version,
    start,
    keep: `pool of ${id}`,
    at: { bays: '/members', width: '/groupWidth' },
    event: (values) => {
      const event = eventOf(values);
      if (event === null) return unread({ root: 'Say first which drives, and what became of them.' });
      return isRefusal(event) ? unread({ root: event.sentence }) : event;
    },
    says: (values) => {
      const event = eventOf(values);
      return event === null || isRefusal(event) ? '' : eventWords(event, unit);
    },
    onSay: (event, sentence) => recorder.record({ unit: id, version, event, sentence }),
  });
  const values = { ...start, ...useWatch({ control: sheet.form.control }) } as Values;
  const kind = values.kind as Kind;
  const pool = unit.pools[values.pool];
  const event = eventOf(values);
  const targets = pool
    ? unit.profile.growth.conversions.filter(({ from }) => from === pool.scheme).map(({ to }) => to)
    : [];
  const offered = kind === 'became' ? targets : SCHEMES.filter((scheme) => unit.profile.schemes[scheme]);
  const widths = widthsOf(unit, values);
  const idleWords =
    idle.length === 0
      ? 'No drive stands idle: record the new ones first.'
      : `Idle: ${idle.map((bay) => bayName(unit, bay)).join(', ')}.`;

  return (
    <div data-pool-change>
      <Sheet of={sheet} sends="Record it" isHeld={recorder.busy || event === null || isRefusal(event)}>
        <RadioField
          name="kind"
          label="What was done"
          options={(Object.keys(KINDS) as Kind[]).map((one) => ({ value: one, words: KINDS[one], isOff: !may[one] }))}
          onChosen={() => sheet.form.setValue('scheme', '')}
        />
        <div className="grid gap-4 sm:grid-cols-2">
          {kind === 'made' ? (
            <TextField name="name" label="Name of the pool" maxLength={60} />
          ) : (
            <SelectField
              name="pool"
              label="Which pool"
              options={pools.map((one) => ({ value: one.id, words: `${one.name}, ${factsOf(one.scheme).name}` }))}
            />
          )}
          {(kind === 'made' || kind === 'became') && (
            <SelectField
              name="scheme"
              label={kind === 'made' ? 'Layout' : 'What it is now'}
              options={offered.map((one) => ({ value: one, words: factsOf(one).name }))}
              hint={
                kind === 'became' && targets.length === 0
                  ? `This family makes nothing else of ${pool ? factsOf(pool.scheme).name : 'it'}.`
                  : undefined
              }
            />
          )}
          {widths !== null && (
            <SelectField
              name="width"
              label="Drives in a group"
              options={[
                {
                  value: '',
                  words: widths[0] === undefined ? 'none fits' : `${String(widths[0])}, the first that fits`,
                },
                ...widths.map((one) => ({ value: String(one), words: String(one) })),
              ]}
              hint={widths.length === 0 ? 'So many drives make no groups of one width.' : undefined}
            />
          )}
          {kind !== 'erased' && <TextField name="bays" label={BAYS[kind]} hint={idleWords} />}
          {kind === 'made' && <TextField name="spares" label="Bays of its spares" />}
        </div>
        <div aria-live="polite" className="min-h-12">
          {event === null ? null : isRefusal(event) ? (
            <>
              <p className="font-semibold text-thinned">{event.sentence}</p>
              <WayOnButton way={wayOn(id, event.code)} />
            </>
          ) : event.kind === 'pool-destroyed' ? (
            <p className="font-semibold text-thinned">
              All that {pool?.name} holds is gone then; its drives stand idle.
            </p>
          ) : (
            <p>{outcomeWords(event.usableBytes, event.bands, kind === 'made' ? undefined : pool)}</p>
          )}
        </div>
      </Sheet>
      <WayOnButton way={recorder.way} />
      {recorder.pending !== null && (
        <FormDialog title="Hear this first" onClose={recorder.cancel}>
          <HazardCheck recorder={recorder} />
        </FormDialog>
      )}
    </div>
  );
}

/** Widths of group that the listed drives make; null where there are no groups. */
function widthsOf(unit: UnitState, { kind, scheme, bays }: Values): readonly number[] | null {
  if (kind !== 'made' || scheme === '' || !factsOf(scheme as Scheme).isGrouped) return null;
  const listed = baysListed(unit, bays);
  const count = isRefusal(listed) ? 0 : listed.length;
  return groupWidthsThatFit(
    count,
    factsOf(scheme as Scheme).redundancy ?? 1,
    limitsOf(unit.profile, scheme as Scheme) ?? {},
  );
}

/** What was done, as far as it is said; why not where it cannot be read. */
function changeOf(unit: UnitState, values: Values): PoolChange | Refusal | null {
  const kind = values.kind as Kind;
  const pool = unit.pools[values.pool];
  if (kind === 'erased') return pool ? { kind, pool: pool.id } : null;
  const bays = baysListed(unit, values.bays);
  if (isRefusal(bays)) return bays;
  if (kind === 'added') return pool && bays.length > 0 ? { kind, pool: pool.id, bays } : null;
  if (values.scheme === '') return null;
  const scheme = values.scheme as Scheme;
  if (kind === 'became') return pool ? { kind, pool: pool.id, to: scheme, bays } : null;
  const spares = baysListed(unit, values.spares);
  if (isRefusal(spares)) return spares;
  const groupWidth = Number(values.width) || widthsOf(unit, values)?.[0];
  return bays.length === 0
    ? null
    : {
        kind,
        name: values.name.trim() || 'Pool',
        scheme,
        bays,
        spares,
        ...(groupWidth === undefined ? {} : { groupWidth }),
      };
}

/** "8 TB usable, 4 TB more than before." */
function outcomeWords(usableBytes: number, bands: Pool['bands'], before: Pool | undefined): string {
  const won = before === undefined ? 0 : usableBytes - usableOf(before.bands);
  const much =
    won === 0 ? '' : `, ${formatBytes(Math.abs(won), 'decimal', 2)} ${won > 0 ? 'more' : 'less'} than before`;
  const redundancy = Math.min(...bands.map((band) => band.redundancy));
  return `${formatBytes(usableBytes, 'decimal', 2)} usable${before === undefined ? '' : much || ', as before'}; it can lose ${redundancy === 0 ? 'none' : String(redundancy)}.`;
}
