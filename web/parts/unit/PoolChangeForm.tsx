'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { groupWidthsThatFit } from '~/core/layout/groupWidths';
import { factsOf, SCHEMES, type Scheme } from '~/core/layout/scheme';
import { limitsOf } from '~/core/platform/profile';
import { formatBytes } from '~/core/quantity/formatBytes';
import { usableOf } from '~/core/pool/builtPool';
import { eventWords } from '~/core/record/eventWords';
import { bayName } from '~/core/unit/bayName';
import { baysListed } from '~/core/unit/baysListed';
import { idleBays, poolChanged, type PoolChange } from '~/core/unit/poolChanged';
import { poolsOf, type Pool, type UnitState } from '~/core/unit/state';
import { isRefusal, type Refusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { newId } from '~/web/parts/form/newId';
import { Notice } from '~/web/parts/form/Notice';
import { HazardCheck } from '~/web/parts/record/HazardCheck';
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

/** A pool made, grown, changed or erased on a unit in use: what it comes to, before it is recorded. */
export function PoolChangeForm({ id, version, unit, used }: Props): ReactNode {
  const router = useRouter();
  const recorder = useRecord(() => router.push(`/units/${id}`));
  const pools = poolsOf(unit);
  const idle = idleBays(unit);
  const offered = SCHEMES.filter((scheme) => unit.profile.schemes[scheme]);
  const may: Readonly<Record<Kind, boolean>> = {
    made: idle.length > 0,
    added: pools.length > 0 && idle.length > 0,
    became: pools.length > 0,
    erased: pools.length > 0,
  };
  const [kind, setKind] = useState<Kind>(may.made && pools.length === 0 ? 'made' : may.added ? 'added' : 'became');
  const [poolId, setPoolId] = useState(pools[0]?.id ?? '');
  const [name, setName] = useState(`Pool ${String(pools.length + 1)}`);
  const [scheme, setScheme] = useState<Scheme | ''>('');
  const [width, setWidth] = useState('');
  const [bays, setBays] = useState('');
  const [spares, setSpares] = useState('');
  const [newPool] = useState(newId);
  const pool = unit.pools[poolId];
  const targets = pool ? unit.profile.growth.conversions.filter(({ from }) => from === pool.scheme).map(({ to }) => to) : [];
  const isGrouped = kind === 'made' && scheme !== '' && factsOf(scheme).isGrouped;

  const listed = baysListed(unit, bays);
  const waiting = baysListed(unit, spares);
  const count = isRefusal(listed) ? 0 : listed.length;
  const widths = isGrouped ? groupWidthsThatFit(count, factsOf(scheme).redundancy ?? 1, limitsOf(unit.profile, scheme) ?? {}) : [];
  const change = ((): PoolChange | Refusal | null => {
    if (kind === 'erased') return pool ? { kind, pool: pool.id } : null;
    if (isRefusal(listed)) return listed;
    if (kind === 'added') return pool && listed.length > 0 ? { kind, pool: pool.id, bays: listed } : null;
    if (scheme === '') return null;
    if (kind === 'became') return pool ? { kind, pool: pool.id, to: scheme, bays: listed } : null;
    if (isRefusal(waiting)) return waiting;
    const groupWidth = isGrouped ? Number(width) || widths[0] : undefined;
    return listed.length === 0
      ? null
      : { kind, name: name.trim() || 'Pool', scheme, bays: listed, spares: waiting, ...(groupWidth === undefined ? {} : { groupWidth }) };
  })();
  const event = change === null || isRefusal(change) ? change : poolChanged(unit, change, newPool, used[poolId] ?? 0);
  const idleWords = idle.length === 0 ? 'No drive stands idle: record the new ones first.' : `Idle: ${idle.map((bay) => bayName(unit, bay)).join(', ')}.`;

  return (
    <form
      className="grid gap-4"
      data-pool-change
      onSubmit={(submitted) => {
        submitted.preventDefault();
        if (event !== null && !isRefusal(event)) void recorder.record({ unit: id, version, event, sentence: eventWords(event, unit) });
      }}
    >
      <fieldset className="grid gap-1">
        <legend className="mb-1 font-semibold">What was done</legend>
        {(Object.keys(KINDS) as Kind[]).map((one) => (
          <label key={one} className={`flex min-h-9 items-center gap-3 max-sm:min-h-11 ${may[one] ? '' : 'text-muted'}`}>
            <input
              type="radio"
              name="kind"
              checked={kind === one}
              disabled={!may[one]}
              onChange={() => {
                setKind(one);
                setScheme('');
              }}
            />
            {KINDS[one]}
          </label>
        ))}
      </fieldset>
      {kind === 'made' ? (
        <Field label="Name of the pool" value={name} maxLength={60} autoComplete="off" onChange={(changed) => setName(changed.target.value)} />
      ) : (
        <Choice label="Which pool" value={poolId} onChange={setPoolId} options={pools.map((one) => [one.id, `${one.name}, ${factsOf(one.scheme).name}`])} />
      )}
      {(kind === 'made' || kind === 'became') && (
        <Choice
          label={kind === 'made' ? 'Layout' : 'What it is now'}
          value={scheme}
          onChange={(to) => setScheme(to as Scheme)}
          options={[['', 'Which one?'], ...(kind === 'made' ? offered : targets).map((one): [string, string] => [one, factsOf(one).name])]}
          hint={kind === 'became' && targets.length === 0 ? `This family makes nothing else of ${pool ? factsOf(pool.scheme).name : 'it'}.` : undefined}
        />
      )}
      {isGrouped && (
        <Choice
          label="Drives in a group"
          value={width}
          onChange={setWidth}
          options={widths.map((one) => [String(one), String(one)])}
          hint={widths.length === 0 ? 'So many drives make no groups of one width.' : undefined}
        />
      )}
      {kind !== 'erased' && (
        <Field
          label={kind === 'made' ? 'Bays of its drives' : kind === 'added' ? 'Bays of the drives that were added' : 'Bays of the drives that came in, if any'}
          value={bays}
          autoComplete="off"
          hint={idleWords}
          onChange={(changed) => setBays(changed.target.value)}
        />
      )}
      {kind === 'made' && <Field label="Bays of its spares" value={spares} autoComplete="off" onChange={(changed) => setSpares(changed.target.value)} />}
      <div aria-live="polite" className="min-h-12">
        {event === null ? null : isRefusal(event) ? (
          <p className="font-semibold text-thinned">{event.sentence}</p>
        ) : event.kind === 'pool-destroyed' ? (
          <p className="font-semibold text-thinned">All that {pool?.name} holds is gone then; its drives stand idle.</p>
        ) : (
          <p>{outcomeWords(event.usableBytes, event.bands, kind === 'made' ? undefined : pool)}</p>
        )}
      </div>
      {recorder.fault !== null && <Notice grave>{recorder.fault}</Notice>}
      <div>
        <Button look="main" type="submit" className="min-h-11" disabled={recorder.busy || event === null || isRefusal(event)}>
          Record it
        </Button>
      </div>
      <Dialog open={recorder.pending !== null} onOpenChange={(open) => !open && recorder.cancel()} title="Hear this first">
        <HazardCheck recorder={recorder} />
      </Dialog>
    </form>
  );
}

/** "8 TB usable, 4 TB more than before." */
function outcomeWords(usableBytes: number, bands: Pool['bands'], before: Pool | undefined): string {
  const won = before === undefined ? 0 : usableBytes - usableOf(before.bands);
  const much = won === 0 ? '' : `, ${formatBytes(Math.abs(won), 'decimal', 2)} ${won > 0 ? 'more' : 'less'} than before`;
  const redundancy = Math.min(...bands.map((band) => band.redundancy));
  return `${formatBytes(usableBytes, 'decimal', 2)} usable${before === undefined ? '' : much || ', as before'}; it can lose ${redundancy === 0 ? 'none' : String(redundancy)}.`;
}

function Choice({
  label,
  value,
  options,
  hint,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly options: readonly (readonly [string, string])[];
  readonly hint?: string | undefined;
  readonly onChange: (value: string) => void;
}): ReactNode {
  return (
    <label className="block sm:max-w-[50%]">
      <span className="mb-1 block font-semibold">{label}</span>
      <select className="field" value={value} onChange={(changed) => onChange(changed.target.value)}>
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
      {hint !== undefined && <span className="mt-1 block text-sm text-muted">{hint}</span>}
    </label>
  );
}
