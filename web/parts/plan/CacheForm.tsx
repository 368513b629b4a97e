'use client';
import { useMemo, useState, type ReactNode } from 'react';
import type { CacheWish } from '~/core/plan/makers/cache';
import { candidatesForCache } from '~/core/plan/makers/candidates';
import type { NewDrive } from '~/core/plan/makers/handsOnDrive';
import { bayName } from '~/core/unit/bayName';
import { cacheStands, deadCacheWords } from '~/core/unit/cacheStands';
import { cacheSlotsOf, freeBays, freeSlots, type CacheHolds } from '~/core/unit/state';
import type { DrawerDrive } from '~/core/upkeep/spareCoverage';
import { Notice } from '~/web/parts/form/Notice';
import { Radios } from '~/web/parts/form/Radios';
import { Serial } from '~/web/parts/unit/Serial';
import { fromDrawer, NewDriveChoice } from './NewDriveChoice';
import { PlanAsk, type PlanFormProps } from './PlanAsk';
import { usePlanTried } from './usePlanTried';

interface Props extends PlanFormProps {
  readonly drawers: readonly DrawerDrive[];
}

const HOLDS: readonly { readonly value: CacheHolds; readonly words: string; readonly detail: string }[] = [
  { value: 'reads', words: 'Only what was read', detail: 'A drive of it that dies costs speed, and nothing else.' },
  {
    value: 'writes',
    words: 'What is written too',
    detail: 'It stands only there until it reaches the pool: two drives, mirrored, and mains that do not fail.',
  },
];

/** Cache of a unit: what is to be done with it, what it is to hold, and what goes in. */
export function CacheForm({ unit, drawers, ...at }: Props): ReactNode {
  const { dead } = cacheStands(unit);
  const has = unit.cache.length > 0;
  const [change, setChange] = useState<CacheWish['change']>(has ? 'renew' : 'add');
  const [holds, setHolds] = useState<CacheHolds | ''>(unit.cacheHolds ?? '');
  const slots = freeSlots(unit);
  const place = cacheSlotsOf(unit)[0] ?? freeBays(unit)[0] ?? '';
  const candidates = useMemo(() => candidatesForCache(unit, place, drawers), [unit, place, drawers]);
  const best = candidates.find(({ fits, drive }) => fits && drive.sick === undefined);
  const [drive, setDrive] = useState<NewDrive | null>(best ? fromDrawer(best.drive) : null);
  const isFitted = change !== 'remove';
  const wish: CacheWish | null =
    isFitted && (!drive || holds === '')
      ? null
      : {
          change,
          ...(holds === '' ? {} : { holds }),
          ...(isFitted && drive ? { drive } : {}),
        };
  const goIn = change === 'renew' ? unit.cache.length : holds === 'writes' && !has ? 2 : 1;
  const tried = usePlanTried('cache', at.id, wish);
  return (
    <PlanAsk
      {...at}
      unit={unit}
      job="cache"
      wish={wish}
      tried={tried}
      waiting="Say what it is to hold, and what goes in."
    >
      {has && (
        <p data-cache-now>
          Cache now:{' '}
          {unit.cache.map((serial, i) => (
            <span key={serial}>
              {i > 0 && ' and '}
              <Serial of={serial} /> in {bayName(unit, unit.drives[serial]?.bay)}
            </span>
          ))}
          . What it holds:{' '}
          {unit.cacheHolds === undefined ? 'not known' : unit.cacheHolds === 'reads' ? 'reads only' : 'writes too'}.
        </p>
      )}
      {dead.length > 0 && (
        <Notice grave title={`${dead.join(' and ')} does not work`}>
          {deadCacheWords(unit)}
        </Notice>
      )}
      <Radios
        legend="What is to be done"
        name="change"
        value={change}
        onValue={(value) => setChange(value as CacheWish['change'])}
        options={[
          {
            value: 'add',
            words: has ? 'Add a drive to it' : 'Add cache',
            detail:
              slots.length === 0 ? 'No slot is free.' : `Free: ${slots.map((slot) => bayName(unit, slot)).join(', ')}.`,
            isOff: slots.length === 0,
          },
          { value: 'renew', words: 'Renew it', detail: 'All of it: its drives took the same writes.', isOff: !has },
          { value: 'remove', words: 'Take it out', detail: 'Reading gets slower; nothing is lost.', isOff: !has },
        ]}
      />
      {isFitted && (
        <>
          <Radios
            legend="What it is to hold"
            name="holds"
            value={holds}
            onValue={(value) => setHolds(value as CacheHolds)}
            options={[...HOLDS]}
          />
          {goIn > 1 && <p>{String(goIn)} go in, all of one kind; each is read by its serial as it is fitted.</p>}
          <NewDriveChoice candidates={candidates} first={best?.serial} media="nvme" onDrive={setDrive} />
        </>
      )}
    </PlanAsk>
  );
}
