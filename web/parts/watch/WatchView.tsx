'use client';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useEffect, useState, type ReactNode } from 'react';
import { bayName } from '~/core/unit/bayName';
import type { UnitState } from '~/core/unit/state';
import type { ShownWatch } from '~/service/watch/watchOperations';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { Contradictions } from '~/web/parts/unit/Contradictions';
import { Moment } from '~/web/parts/unit/Moment';
import { Row } from '~/web/parts/unit/Row';
import { Serial } from '~/web/parts/unit/Serial';
import { Lamp } from './Lamp';

const WatchForm = dynamic(() => import('./WatchForm').then((part) => part.WatchForm), { ssr: false });
const SimulatedPanel = dynamic(() => import('./SimulatedPanel').then((part) => part.SimulatedPanel), { ssr: false });

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly watch: ShownWatch | null;
  readonly mayRecord: boolean;
  readonly isOwner: boolean;
  /** It is a simulated unit of the demo, which can be done things to. */
  readonly isSimulated: boolean;
}

/** How often the page looks again by itself. */
const LOOKS_AGAIN_MS = 5000;

const STATE_WORDS = {
  well: 'well',
  sick: 'expects to fail',
  failed: 'failed',
  rebuilding: 'being written',
  empty: 'empty',
} as const;

/** Where a unit is asked how it is, what it said last, and what of that waits for a person. */
export function WatchView({ id, version, unit, watch, mayRecord, isOwner, isSimulated }: Props): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const [isSetting, setIsSetting] = useState(false);
  const isWatched = watch !== null;
  useEffect(() => {
    if (!isWatched) return;
    const timer = setInterval(() => {
      if (document.visibilityState === 'visible') router.refresh();
    }, LOOKS_AGAIN_MS);
    return () => clearInterval(timer);
  }, [isWatched, router]);

  if (isSetting)
    return (
      <WatchForm
        id={id}
        name={unit.name}
        watch={watch}
        known={unit.details.address ?? null}
        onDone={() => setIsSetting(false)}
      />
    );
  if (!watch)
    return (
      <div className="grid max-w-[640px] gap-3">
        <p>
          Nobody asks {unit.name} how it is: what happens there is known when somebody writes it down. A unit that
          speaks Redfish can be asked every minute; what it is sure of is recorded by itself, the rest waits for you.
        </p>
        {isOwner ? (
          <div>
            <Button look="main" onClick={() => setIsSetting(true)}>
              Watch it…
            </Button>
          </div>
        ) : (
          <p className="text-muted">An owner can set that up.</p>
        )}
      </div>
    );
  const { trouble, doubtful, impossible, bays, lights } = watch;
  const hasPlan = Object.keys(unit.plans).length > 0;
  const again = (): void => router.refresh();
  return (
    <div className="grid gap-5">
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {trouble && (
        <Notice grave>
          <p>
            {unit.name} gives no answer
            {watch.silentSince !== null && (
              <>
                , since <Moment at={watch.silentSince} />
              </>
            )}
            . {trouble.sentence}
          </p>
          {trouble.fingerprint !== undefined && (
            <div className="mt-2 grid gap-2">
              <p>
                It showed <span className="font-mono text-sm break-all">{watch.fingerprint}</span> before, and shows{' '}
                <span className="font-mono text-sm break-all">{trouble.fingerprint}</span> now. Compare that with the
                fingerprint on its own page, at the unit itself, before you accept it: its password goes to whoever has
                it.
              </p>
              {isOwner && (
                <div>
                  <Button
                    disabled={busy}
                    onClick={() =>
                      void run('POST /units/{id}/watch/certificates', {
                        id,
                        body: { fingerprint: trouble.fingerprint ?? '' },
                      }).then(again)
                    }
                  >
                    I have compared it: accept it
                  </Button>
                </div>
              )}
            </div>
          )}
        </Notice>
      )}
      <section aria-label="How it is asked" className="grid gap-3">
        <p>
          {watch.heardAt === null ? (
            'Not heard yet'
          ) : (
            <>
              Heard <Moment at={watch.heardAt} relative />
            </>
          )}
          , asked every {watch.everySeconds} s{watch.tells && ', and at once when it tells of something'}.
        </p>
        <div className="no-print flex flex-wrap gap-2">
          {mayRecord && (
            <Button
              disabled={busy}
              onClick={() =>
                void run('POST /units/{id}/watch/looks', { id }).then((answer) => {
                  if (answer) tell(answer.watch?.trouble ? `${unit.name} gave no answer.` : `${unit.name} was asked.`);
                  again();
                })
              }
            >
              Ask it now
            </Button>
          )}
          {isOwner && <Button onClick={() => setIsSetting(true)}>Change where…</Button>}
          {isOwner && (
            <Button
              disabled={busy}
              onClick={() =>
                void run('DELETE /units/{id}/watch', { id }).then((answer) => {
                  if (answer) tell(`${unit.name} is watched no more.`);
                  again();
                })
              }
            >
              Watch it no more
            </Button>
          )}
        </div>
        <details>
          <summary className="cursor-pointer py-1 text-action underline max-sm:min-h-11">
            Where, and by which certificate
          </summary>
          <dl className="mt-1 grid max-w-[640px] grid-cols-[auto_1fr] gap-x-6 gap-y-1">
            <Row name="Address">{watch.address}</Row>
            <Row name="User">{watch.user}</Row>
            {watch.fingerprint !== null && (
              <Row name="Certificate">
                <span className="font-mono text-sm break-all">{watch.fingerprint}</span>
              </Row>
            )}
          </dl>
        </details>
      </section>
      {doubtful.length > 0 && (
        <section aria-label="Says otherwise than the record" className="grid gap-2" data-doubtful>
          <h2 className="text-lg">
            {doubtful.length === 1 ? 'One thing waits for you' : `${String(doubtful.length)} things wait for you`}
          </h2>
          {hasPlan ? (
            <>
              <p className="text-muted">
                A plan is under way here: what hands do is recorded by its steps, and these settle with them.
              </p>
              <ul className="grid gap-1">
                {doubtful.map(({ sentence }) => (
                  <li key={sentence}>{sentence}</li>
                ))}
              </ul>
            </>
          ) : mayRecord ? (
            <Contradictions
              id={id}
              version={version}
              enclosures={unit.enclosures}
              found={doubtful}
              who="The unit"
              onSettled={() => void run('POST /units/{id}/watch/looks', { id }).then(again)}
            />
          ) : (
            <ul className="grid gap-1">
              {doubtful.map(({ sentence }) => (
                <li key={sentence}>{sentence}</li>
              ))}
            </ul>
          )}
        </section>
      )}
      {impossible.length > 0 && (
        <section aria-label="Makes no sense" className="grid gap-1">
          <h2 className="text-lg">It says something impossible</h2>
          <p className="text-muted">None of this was believed.</p>
          <ul className="grid gap-1">
            {impossible.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </section>
      )}
      {bays.length > 0 && (
        <section aria-label="What it says of its bays">
          <h2 className="mb-1 text-lg">What it says of its bays</h2>
          <table className="w-full max-w-[720px] border border-line bg-surface">
            <thead className="text-left text-sm text-muted">
              <tr>
                {['Bay', 'Serial', 'Says', 'Light'].map((head) => (
                  <th key={head} scope="col" className="px-3 py-1.5 font-normal">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {bays.map(({ bay, serial, state, percent }) => (
                <tr key={bay} className="border-t border-line">
                  <td className="px-3 py-1.5 whitespace-nowrap">{bayName(unit, bay)}</td>
                  <td className="px-3 py-1.5">{serial === undefined ? '' : <Serial of={serial} />}</td>
                  <td className="px-3 py-1.5">
                    {state === undefined ? 'nothing' : STATE_WORDS[state]}
                    {percent !== undefined && `, ${String(percent)} %`}
                  </td>
                  <td className="px-3 py-1.5">
                    <Lamp
                      id={id}
                      where={bayName(unit, bay)}
                      bay={bay}
                      lights={lights}
                      maySwitch={mayRecord}
                      onDone={again}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      {isSimulated && isOwner && <SimulatedPanel id={id} unit={unit} onDone={again} />}
    </div>
  );
}
