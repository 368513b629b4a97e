'use client';
import { useState, type ReactNode } from 'react';
import { startsWithout } from '~/core/unit/startsWithout';
import { marginWords } from '~/core/unit/standingWords';
import type { UnitState } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { Radios } from '~/web/parts/form/Radios';
import { api, type AnswerOf } from '~/web/parts/form/api';
import { Moment } from '~/web/parts/unit/Moment';
import { Serial } from '~/web/parts/unit/Serial';
import { Sentence } from '~/web/parts/frame/Sentence';

interface Props {
  /** The unit the drives come from, as it was packed. */
  readonly from: UnitState;
  /** Those that were not read yet. */
  readonly unread: readonly string[];
  /** Those that are said to be missing already. */
  readonly missing: readonly string[];
  readonly onMissing: (serial: string) => void;
  readonly onClose: () => void;
}

type DrivePage = AnswerOf<'GET /drives/{serial}'>;

/** A carried drive is not there: who had it last, and which pools start without it. */
export function OneMissing({ from, unread, missing, onMissing, onClose }: Props): ReactNode {
  const [serial, setSerial] = useState(unread.length === 1 ? (unread[0] ?? '') : '');
  const [last, setLast] = useState<DrivePage['ledger'][number] | null>(null);
  const choose = (one: string): void => {
    setSerial(one);
    setLast(null);
    void api('GET /drives/{serial}', { serial: one }).then((sent) => {
      if (sent.kind === 'done') setLast(sent.answer.ledger[0] ?? null);
    });
  };
  const pools = serial === '' ? [] : startsWithout(from, [...missing, serial]);
  const starts = pools.every(({ margin }) => margin >= 0);
  return (
    <div className="grid gap-3 border border-line bg-surface p-4" data-missing>
      <Radios
        legend="Which one is missing"
        name="missing"
        options={unread.map((one) => ({ value: one, words: <Serial of={one} /> }))}
        value={serial}
        onValue={choose}
      />
      {serial !== '' && (
        <Notice grave={!starts} title={starts ? 'It can go on without it' : 'It must not go on without it'}>
          {last && (
            <p>
              Last on record: <Sentence of={last.words} /> {last.recordedBy}, <Moment at={last.happenedAt} relative />.
            </p>
          )}
          <ul className="mt-1 grid gap-1">
            {pools.map(({ pool, name, margin, loses }) => (
              <li key={pool}>
                {margin >= 0
                  ? `${name} starts without it, thinned: it ${marginWords(margin)}.`
                  : loses === 'pool'
                    ? `${name} does not start without it.`
                    : `${name} starts without what is on it.`}
              </li>
            ))}
            {pools.length === 0 && <li>No pool counts on it.</li>}
          </ul>
          <p className="mt-2">
            Look for it first: on the table, in the old unit, behind the tray. Both units are off: nothing is lost so
            long.
            {!starts && ' If it is not found, carry the others back: the old unit is as it was.'}
          </p>
        </Notice>
      )}
      <div className="flex flex-wrap gap-2">
        <Button className="min-h-11" onClick={onClose}>
          Look for it first
        </Button>
        {serial !== '' && starts && (
          <Button look="grave" className="min-h-11" onClick={() => onMissing(serial)}>
            Go on without it
          </Button>
        )}
      </div>
    </div>
  );
}
