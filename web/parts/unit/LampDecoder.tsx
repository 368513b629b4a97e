'use client';
import Link from '~/web/parts/frame/Link';
import { useRouter } from 'next/navigation';
import { useRef, useState, type ReactNode } from 'react';
import { bayName, BayName } from '~/core/unit/bayName';
import { frontOf } from '~/core/unit/card';
import type { UnitState } from '~/core/unit/state';
import { decodeLamp, lampsOf, type LampMeaning } from '~/core/upkeep/decodeLamp';
import { Button, ButtonLink } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { FileInput } from '~/web/parts/form/FileInput';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { Refused } from '~/web/parts/way/Refused';
import { useRecord, type Recorder } from '~/web/parts/record/useRecord';
import { Moment } from './Moment';
import { base64Of } from './Papers';
import { UnitFront } from './UnitFront';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly unit: UnitState;
  readonly now: string;
  readonly mayRecord: boolean;
}

/** Tap the bay that is lit, or nothing for the unit itself; then what it does: read what it means here and now, and have it recorded. */
export function LampDecoder({ id, version, unit, now, mayRecord }: Props): ReactNode {
  const recorder = useRecord();
  const [chosen, setChosen] = useState<string | null>(null);
  const [bay, setBay] = useState<string | undefined>();
  const isLost = Object.values(unit.pools).some(({ lost }) => lost.length > 0);
  const meanings = lampsOf(unit.profile).flatMap(({ see }) => decodeLamp(unit, see, now, bay) ?? []);
  const record = (meaning: LampMeaning): void => {
    const at = meaning.isOfBay && bay !== undefined ? { bay } : {};
    void recorder.record({
      unit: id,
      version,
      event: { kind: 'sign-noted', note: meaning.see, lamp: meaning.see, ...at },
      sentence: `${meaning.see.toLowerCase()}${bay !== undefined && meaning.isOfBay ? `, ${bayName(unit, bay)}` : ''}`,
    });
  };
  const list = (of: readonly LampMeaning[], label: string): ReactNode => (
    <ul className="grid gap-2" aria-label={label}>
      {of.map((meaning) => (
        <Lamp
          key={meaning.see}
          of={meaning}
          unitId={id}
          isLost={isLost}
          isOpen={chosen === meaning.see}
          onOpen={() => setChosen(chosen === meaning.see ? null : meaning.see)}
          onRecord={mayRecord && meaning.reads !== 'unsaid' ? () => record(meaning) : undefined}
          recorder={recorder}
        />
      ))}
    </ul>
  );
  return (
    <div className="grid gap-4">
      {unit.signs.length > 0 && (
        <Notice title="Seen and not settled yet">
          {unit.signs.map(({ note, since, bay: at }) => (
            <p key={note + (at ?? '')}>
              {at !== undefined && `${BayName(unit, at)}: `}
              {note}, <Moment at={since} relative />
            </p>
          ))}
          {mayRecord && (
            <Button
              className="mt-2"
              disabled={recorder.busy}
              onClick={() =>
                void recorder.record({ unit: id, version, event: { kind: 'signs-cleared' }, sentence: 'settled' })
              }
            >
              All of it is settled
            </Button>
          )}
        </Notice>
      )}
      <Refused fault={recorder.fault} way={recorder.way} />
      {meanings.length === 0 && (
        <p className="text-muted">
          Nobody has written this family’s lamps into its profile yet. The maker’s manual has them.
        </p>
      )}
      <section aria-label="At a bay" className="grid gap-2">
        <h2 className="text-lg">A lamp at a bay: tap that bay</h2>
        <div className="relative max-w-full overflow-x-auto p-1">
          <UnitFront
            unit={frontOf(unit)}
            size="page"
            chosen={bay}
            onBay={(to) => setBay(to === bay ? undefined : to)}
          />
        </div>
        {bay !== undefined && (
          <>
            <p className="font-semibold">{BayName(unit, bay)}: what does it do?</p>
            {list(
              meanings.filter(({ isOfBay }) => isOfBay),
              BayName(unit, bay),
            )}
          </>
        )}
      </section>
      <section aria-label="The unit itself" className="grid gap-2">
        <h2 className="text-lg">The unit itself, or what you hear</h2>
        {list(
          meanings.filter(({ isOfBay }) => !isOfBay),
          'The unit itself',
        )}
      </section>
      {mayRecord && <NoneOfThese id={id} version={version} unit={unit} bay={bay} recorder={recorder} />}
      <p className="text-sm text-muted">
        {isLost
          ? 'Do not switch off or restart the unit.'
          : 'A beep is rarely a catastrophe: do not switch off or restart a unit because of it.'}{' '}
        The maker’s manual comes before this page.
      </p>
    </div>
  );
}

const READS: Readonly<Record<LampMeaning['reads'], string>> = {
  expected: 'Now: expected',
  new: 'Now: new',
  worse: 'Now: worse than the record knows',
  unsaid: 'Now',
};

interface LampProps {
  readonly of: LampMeaning;
  readonly unitId: string;
  readonly isLost: boolean;
  readonly isOpen: boolean;
  readonly onOpen: () => void;
  readonly onRecord: (() => void) | undefined;
  readonly recorder: Recorder;
}

function Lamp({
  of: { see, means, now, reads, silence },
  unitId,
  isLost,
  isOpen,
  onOpen,
  onRecord,
  recorder,
}: LampProps): ReactNode {
  return (
    <li className="border border-line bg-surface">
      <button
        type="button"
        aria-expanded={isOpen}
        className={`min-h-11 w-full px-4 py-2 text-left text-lg ${isOpen ? 'bg-chosen font-semibold' : ''}`}
        onClick={onOpen}
      >
        {see}
      </button>
      {isOpen && (
        <div className="grid gap-3 border-t border-line px-4 py-3" data-reads={reads}>
          <p>
            <span className="block text-sm text-muted">On this family</span>
            {means}
          </p>
          {reads === 'worse' ? (
            <Notice grave title={READS.worse}>
              <p className="text-lg">{now}</p>
              {isLost && (
                <p className="mt-2">
                  <ButtonLink look="main" href={`/units/${unitId}/rescue`}>
                    Open the rescue desk
                  </ButtonLink>
                </p>
              )}
            </Notice>
          ) : (
            <p className={reads === 'expected' ? '' : 'font-semibold'}>
              <span className="block text-sm font-normal text-muted">{READS[reads]}</span>
              {now}
            </p>
          )}
          <p>
            <span className="block text-sm text-muted">To silence it</span>
            {silence}
          </p>
          <div className="flex flex-wrap items-center gap-4">
            {onRecord && (
              <Button look="main" disabled={recorder.busy} onClick={onRecord}>
                Record that it is seen
              </Button>
            )}
            <Link href={`/units/${unitId}/report`} className="text-action underline">
              Hold its page against the record
            </Link>
          </div>
        </div>
      )}
    </li>
  );
}

/** Something the family’s list does not have: in words, with a picture. */
function NoneOfThese({
  id,
  version,
  unit,
  bay,
  recorder,
}: Pick<Props, 'id' | 'version' | 'unit'> & {
  readonly bay: string | undefined;
  readonly recorder: Recorder;
}): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const [isOpen, setIsOpen] = useState(false);
  const [words, setWords] = useState('');
  const [picture, setPicture] = useState<File | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const keep = async (): Promise<void> => {
    // The picture first: without it the words may be all there is, and they say that there is one.
    if (
      picture &&
      !(await run('POST /units/{id}/papers', {
        id,
        body: { name: picture.name.slice(0, 120), base64: await base64Of(picture) },
      }))
    )
      return;
    const note = `${words.trim()}${picture ? ` (picture: ${picture.name.slice(0, 60)})` : ''}`.slice(0, 400);
    await recorder.record({
      unit: id,
      version,
      event: { kind: 'sign-noted', note, ...(bay === undefined ? {} : { bay }) },
      sentence: note,
    });
    setIsOpen(false);
    setWords('');
    setPicture(null);
    router.refresh();
  };
  if (!isOpen)
    return (
      <div>
        <Button className="min-h-11" onClick={() => setIsOpen(true)}>
          None of these…
        </Button>
      </div>
    );
  return (
    <form
      className="grid gap-3 border border-line bg-surface p-4"
      data-none-of-these
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      {fault && <Notice grave>{fault.sentence}</Notice>}
      <p>
        {bay === undefined ? 'Of the unit itself; tap a bay above if it is there.' : `At ${bayName(unit, bay)}.`} Touch
        nothing because of it before its manual says what it is.
      </p>
      <Field
        label="What you see or hear: colour, rhythm, where"
        value={words}
        required
        maxLength={300}
        autoFocus
        autoComplete="off"
        onChange={(event) => setWords(event.target.value)}
      />
      <FileInput ref={file} label="Picture" accept="image/png,image/jpeg,image/webp" onFile={setPicture} />
      <div className="flex flex-wrap items-center gap-2">
        <Button className="min-h-11" onClick={() => file.current?.click()}>
          {picture ? 'Another picture' : 'Take or choose a picture'}
        </Button>
        {picture && <span>{picture.name}</span>}
        <Button look="main" type="submit" className="min-h-11" disabled={busy || recorder.busy || words.trim() === ''}>
          Record it
        </Button>
      </div>
    </form>
  );
}
