'use client';
import { bayName, BayName } from '~/core/unit/bayName';
import { useState, type ReactNode } from 'react';
import type { StatedUnitEvent } from '~/schemas/unitEvent';
import { poolsOf, driveInBay, poolOfDrive, type UnitState } from '~/core/unit/state';
import { roleOf } from '~/core/unit/roleOf';
import { Button, ButtonLink } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { HazardCheck } from '~/web/parts/record/HazardCheck';
import { Refused } from '~/web/parts/way/Refused';
import { useRecord } from '~/web/parts/record/useRecord';
import { ScanIn } from './ScanIn';
import { isDown } from '~/core/unit/margin';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly bay: string;
}

const HOLDS = [
  { holds: 'reads', words: 'reads only' },
  { holds: 'writes', words: 'writes too' },
] as const;

/** What can be recorded of a bay as it is now, each in one press. */
export function BayActions({ id, version, unit, bay }: Props): ReactNode {
  const recorder = useRecord();
  const [asking, setAsking] = useState<{
    readonly words: string;
    readonly event: (note: string) => StatedUnitEvent;
  } | null>(null);
  const [note, setNote] = useState('');
  const [isScanning, setIsScanning] = useState(false);
  const drive = driveInBay(unit, bay);

  const say = (event: StatedUnitEvent, sentence: string): void =>
    void recorder.record({ unit: id, version, event, sentence });
  if (!drive) {
    return (
      <div className="no-print mt-3">
        <Button onClick={() => setIsScanning(true)}>Put drives in by their serials</Button>
        <Dialog open={isScanning} onOpenChange={setIsScanning} title={`Put drives into ${unit.name}`}>
          <ScanIn id={id} version={version} unit={unit} from={bay} onDone={() => setIsScanning(false)} />
        </Dialog>
      </div>
    );
  }
  const { serial, condition } = drive;
  const pool = poolOfDrive(unit, serial);
  const role = roleOf(unit, serial);
  const isOut = condition === 'failed' || condition === 'out-of-service';
  const actions: { readonly words: string; readonly event: StatedUnitEvent | ((note: string) => StatedUnitEvent) }[] = [
    ...(isOut
      ? []
      : [
          {
            words: 'Shows signs…',
            event: (text: string): StatedUnitEvent => ({ kind: 'drive-suspected', serial, note: text }),
          },
        ]),
    ...(condition === 'suspected'
      ? [
          {
            words: 'Found well…',
            event: (text: string): StatedUnitEvent => ({ kind: 'drive-cleared', serial, note: text }),
          },
        ]
      : []),
    ...(condition === 'failed'
      ? []
      : [
          {
            words: 'Failed…',
            event: (text: string): StatedUnitEvent => ({ kind: 'drive-failed', serial, note: text }),
          },
        ]),
    ...(isOut
      ? [
          {
            words: 'Seen again…',
            event: (text: string): StatedUnitEvent => ({ kind: 'drive-returned', serial, note: text }),
          },
        ]
      : []),
    ...(isOut
      ? []
      : [{ words: 'Out of service', event: { kind: 'drive-taken-out-of-service', serial } as StatedUnitEvent }]),
    { words: 'Taken out', event: { kind: 'drive-removed', serial } },
    ...(role === 'cache'
      ? [
          {
            words: 'No cache any more',
            event: { kind: 'cache-set', serials: unit.cache.filter((one) => one !== serial) } as StatedUnitEvent,
          },
          ...HOLDS.filter(({ holds }) => holds !== unit.cacheHolds).map(({ holds, words }) => ({
            words: `It holds ${words}`,
            event: { kind: 'cache-set', serials: [...unit.cache], holds } as StatedUnitEvent,
          })),
        ]
      : []),
    ...(role !== 'idle' || isOut
      ? []
      : HOLDS.filter(({ holds }) => unit.cache.length === 0 || holds === unit.cacheHolds).map(({ holds, words }) => ({
          words: `It is cache, for ${words}`,
          event: { kind: 'cache-set', serials: [...unit.cache, serial], holds } as StatedUnitEvent,
        }))),
    ...(role === 'spare' && pool
      ? [
          {
            words: 'No spare any more',
            event: { kind: 'spare-released', pool: pool.id, serial } as StatedUnitEvent,
          },
        ]
      : []),
    ...(role !== 'idle' || isOut
      ? []
      : poolsOf(unit).map(({ id: of, name }) => ({
          words: `Make it a spare of ${name}`,
          event: { kind: 'spare-assigned', pool: of, serial } as StatedUnitEvent,
        }))),
  ];
  return (
    <div className="no-print mt-3 grid gap-2">
      {pool && isDown(pool) ? (
        <div>
          <p className="mb-2 font-semibold text-thinned">
            {pool.name} has stopped: pull nothing and replace nothing now. Nothing is proven lost.
          </p>
          <ButtonLink look="main" href={`/units/${id}/rescue`}>
            Open the rescue desk
          </ButtonLink>
        </div>
      ) : pool && !pool.spares.includes(serial) ? (
        <div>
          <ButtonLink
            look={condition === 'well' ? 'plain' : 'main'}
            href={`/units/${id}/replace?serial=${encodeURIComponent(serial)}`}
          >
            Plan its replacement
          </ButtonLink>
        </div>
      ) : role === 'cache' ? (
        <div>
          <ButtonLink look={condition === 'well' ? 'plain' : 'main'} href={`/units/${id}/cache`}>
            Plan its renewal
          </ButtonLink>
        </div>
      ) : null}
      <div className="flex flex-wrap gap-2" role="group" aria-label={`Record of ${bayName(unit, bay)}`}>
        {actions.map(({ words, event }) => (
          <Button
            key={words}
            disabled={recorder.busy}
            onClick={() => {
              if (typeof event !== 'function') return say(event, `${bayName(unit, bay)}, ${words.toLowerCase()}`);
              setNote('');
              return setAsking({ words, event });
            }}
          >
            {words}
          </Button>
        ))}
      </div>
      <Refused fault={recorder.fault} way={recorder.way} />
      <Dialog
        open={asking !== null || recorder.pending !== null}
        onOpenChange={(open) => {
          if (open) return;
          setAsking(null);
          recorder.cancel();
        }}
        title={BayName(unit, bay)}
      >
        {recorder.pending ? (
          <HazardCheck recorder={recorder} />
        ) : (
          asking && (
            <form
              className="grid gap-4"
              onSubmit={(event) => {
                event.preventDefault();
                say(asking.event(note.trim()), `${bayName(unit, bay)}, ${asking.words.replace('…', '').toLowerCase()}`);
                setAsking(null);
              }}
            >
              <Field
                label="What is seen"
                value={note}
                required
                maxLength={400}
                autoFocus
                autoComplete="off"
                onChange={(event) => setNote(event.target.value)}
              />
              <div className="flex justify-end">
                <Button look="main" type="submit" disabled={note.trim() === ''}>
                  Go on
                </Button>
              </div>
            </form>
          )
        )}
      </Dialog>
    </div>
  );
}
