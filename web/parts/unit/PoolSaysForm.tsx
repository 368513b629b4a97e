'use client';
import { useState, type ReactNode } from 'react';
import { eventWords } from '~/core/record/eventWords';
import { eventsOfPoolSaid, POOL_SAYS, POOL_SAYS_WORDS, type PoolSays } from '~/core/unit/poolSaid';
import { isDown } from '~/core/unit/margin';
import type { Pool, UnitState } from '~/core/unit/state';
import type { StatedUnitEvent } from '~/schemas/unitEvent';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Radios } from '~/web/parts/form/Radios';
import { HazardCheck } from '~/web/parts/record/HazardCheck';
import { Refused } from '~/web/parts/way/Refused';
import { useRecord } from '~/web/parts/record/useRecord';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly pool: Pool;
}

/** What the unit's page says of a pool now: it is what makes the record right again once the unit serves it. */
export function PoolSaysForm({ id, version, unit, pool }: Props): ReactNode {
  const [says, setSays] = useState<PoolSays | ''>('');
  const [note, setNote] = useState('');
  const recorder = useRecord(() => (setSays(''), setNote('')));
  const options = POOL_SAYS.filter((one) => isDown(pool) || one === 'stopped' || one === 'asks-to-erase');
  return (
    <form
      className="no-print grid max-w-[640px] gap-3"
      data-pool-says={pool.id}
      onSubmit={(event) => {
        event.preventDefault();
        const [said] = says === '' ? [] : eventsOfPoolSaid(unit, pool, says, note.trim());
        if (said)
          void recorder.record({
            unit: id,
            version,
            event: said as StatedUnitEvent,
            sentence: `${pool.name}: ${eventWords(said, unit)}`,
          });
      }}
    >
      <Refused fault={recorder.fault} way={recorder.way} />
      <Radios
        legend={`What does the unit’s page say of ${pool.name} now?`}
        name={`says-${pool.id}`}
        options={options.map((value) => ({ value, words: POOL_SAYS_WORDS[value] }))}
        value={says}
        onValue={(value) => setSays(value as PoolSays)}
      />
      <Field
        label="Its words, if they matter"
        value={note}
        maxLength={300}
        autoComplete="off"
        onChange={(event) => setNote(event.target.value)}
      />
      <HazardCheck recorder={recorder} />
      <div>
        <Button type="submit" className="min-h-11" disabled={recorder.busy || says === ''}>
          Record what it says
        </Button>
      </div>
    </form>
  );
}
