'use client';
import { usePathname } from 'next/navigation';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { Measured, Statement, ToDo } from '~/core/record/readStatement';
import type { Found } from '~/service/drives/driveOperations';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { api } from '~/web/parts/form/api';
import { useAsked } from '~/web/parts/form/useAsked';
import { tell } from '~/web/parts/tell/tell';
import { HazardCheck } from './HazardCheck';
import { Refused } from '~/web/parts/way/Refused';
import { useRecord } from './useRecord';

interface Chosen {
  readonly id: string;
  readonly name: string;
}

/** One box for everything that happened: a few words, what they mean, Enter. */
export function RecordBox({ onClose }: { readonly onClose: () => void }): ReactNode {
  const path = usePathname();
  const router = useRouter();
  const [picked, setPicked] = useState<Chosen | null>(null);
  const here = /^\/units\/([0-9a-f-]{36})/.exec(path)?.[1];
  const [hereName, setHereName] = useState('');

  useEffect(() => {
    if (here === undefined) return;
    void api('GET /units/{id}', { id: here }).then((sent) => {
      if (sent.kind === 'done') setHereName(sent.answer.state.name);
    });
  }, [here]);

  const unit = picked ?? (here === undefined ? null : { id: here, name: hereName });
  const close = (): void => {
    onClose();
    router.refresh();
  };
  return (
    <Dialog open onOpenChange={(now) => !now && close()} title={`What happened${unit ? ` to ${unit.name}` : ''}?`}>
      {unit ? (
        <Say key={unit.id} unit={unit} onDone={close} onOther={() => setPicked(null)} isFixed={picked === null} />
      ) : (
        <PickUnit onPick={setPicked} />
      )}
    </Dialog>
  );
}

function PickUnit({ onPick }: { readonly onPick: (unit: Chosen) => void }): ReactNode {
  const [text, setText] = useState('');
  const wanted = text.trim();
  const { last } = useAsked(wanted === '' ? null : wanted, (signal) =>
    api('GET /find', { query: { q: wanted } }, signal),
  );
  const found = wanted === '' ? [] : (last?.found ?? []).filter(({ href }) => href.startsWith('/units/'));
  const pick = ({ href, title, kind, detail }: Found): void =>
    onPick({
      id: href.slice('/units/'.length).split('?')[0] ?? '',
      name: kind === 'unit' ? title : (detail.split(',')[0] ?? ''),
    });
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (found[0]) pick(found[0]);
      }}
    >
      <Field
        label="Which unit"
        value={text}
        autoFocus
        autoComplete="off"
        hint="Its name, its place, or the serial of a drive in it"
        onChange={(event) => setText(event.target.value)}
      />
      <ul>
        {found.map((item) => (
          <li key={item.href + item.title}>
            <button type="button" className="w-full px-3 py-2 text-left hover:bg-chosen" onClick={() => pick(item)}>
              <span className="font-semibold">{item.title}</span> <span className="text-muted">{item.detail}</span>
            </button>
          </li>
        ))}
      </ul>
    </form>
  );
}

/** What is recorded most; those that end open are typed on. */
const LIKELIEST: readonly string[] = [
  'bay ',
  'pool has stopped',
  'pool is back and healthy',
  'power cut',
  'it restarted',
  'all drives seen',
  'backup ran',
  'a restore worked',
  'firmware updated to ',
  'alarm mail arrived',
];

interface SayProps {
  readonly unit: Chosen;
  readonly isFixed: boolean;
  readonly onDone: () => void;
  readonly onOther: () => void;
}

function Say({ unit, isFixed, onDone, onOther }: SayProps): ReactNode {
  const [text, setText] = useState('');
  const [when, setWhen] = useState('');
  const [at, setAt] = useState(0);
  const router = useRouter();
  const field = useRef<HTMLInputElement>(null);
  const recorder = useRecord(onDone);
  const goFirst = useRef(false);
  const said = text.trim();

  const choose = async (meaning: Statement | Measured | ToDo, version: number): Promise<void> => {
    if (meaning.kind === 'to-do') {
      onDone();
      router.push(`/units/${unit.id}/replace?serial=${encodeURIComponent(meaning.serial)}`);
      return;
    }
    const happenedAt = when === '' ? undefined : new Date(when).toISOString();
    if (meaning.kind === 'statement') {
      await recorder.record({ unit: unit.id, version, event: meaning.event, sentence: meaning.sentence, happenedAt });
      return;
    }
    const { subject, metric, value } = meaning;
    const reading = { unit: unit.id, subject, metric, value, ...(happenedAt === undefined ? {} : { at: happenedAt }) };
    const sent = await api('POST /readings', { body: { readings: [reading] } });
    if (sent.kind === 'refused') recorder.setFault(sent.sentence);
    else {
      tell(`Recorded: ${meaning.sentence}`);
      onDone();
    }
  };

  const { answer: current, refusal } = useAsked(
    said === '' ? null : `${unit.id} ${said}`,
    (signal) => api('POST /units/{id}/statements', { id: unit.id, body: { text: said } }, signal),
    {
      onAnswer: ({ meanings, version }) => {
        setAt(0);
        if (goFirst.current && meanings[0]) void choose(meanings[0], version);
        goFirst.current = false;
      },
    },
  );
  const wrong = recorder.fault ?? refusal?.sentence ?? null;

  if (recorder.pending) {
    return (
      <>
        <Refused fault={recorder.fault} way={recorder.way} />
        <HazardCheck recorder={recorder} />
      </>
    );
  }
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        const meaning = current?.meanings[at];
        if (meaning && current) void choose(meaning, current.version);
        else goFirst.current = said !== '';
      }}
      onKeyDown={(event) => {
        const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
        if (step === undefined || !current) return;
        setAt((at + step + current.meanings.length) % current.meanings.length);
        event.preventDefault();
      }}
    >
      <Field
        label="In a few words"
        value={text}
        autoFocus
        autoComplete="off"
        data-say
        inputRef={field}
        hint="“bay 3 is clicking”, “14 of 15 drives seen”, “firmware updated to 4.2”, “backup restored”, “62 %”"
        onChange={(event) => setText(event.target.value)}
      />
      {said === '' && (
        <ul className="flex flex-wrap gap-2" aria-label="What happens most">
          {LIKELIEST.map((words) => (
            <li key={words}>
              <Button
                onClick={() => {
                  setText(words);
                  field.current?.focus();
                }}
              >
                {words.trim()}
                {words.endsWith(' ') && ' …'}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {said !== '' && (
        <div role="listbox" aria-label="What it means" className="border border-line">
          {current === null ? (
            <p className="px-3 py-2 text-muted">{refusal ? 'It could not be read.' : 'Reading…'}</p>
          ) : (
            current.meanings.map((meaning, i) => (
              <button
                key={meaning.sentence}
                type="button"
                role="option"
                aria-selected={i === at}
                className={`block min-h-9 w-full px-3 py-1.5 text-left max-sm:min-h-11 ${i === at ? 'bg-chosen font-semibold' : 'hover:bg-chosen'}`}
                onClick={() => void choose(meaning, current.version)}
              >
                {meaning.sentence}
              </button>
            ))
          )}
        </div>
      )}
      <Field
        label="When"
        type="datetime-local"
        value={when}
        hint="Left empty means now. An earlier time is placed where it belongs."
        onChange={(event) => setWhen(event.target.value)}
      />
      {wrong !== null && <Notice grave>{wrong}</Notice>}
      <div className="flex justify-between gap-2">
        {isFixed ? <span /> : <Button onClick={onOther}>Another unit</Button>}
        <Button look="main" type="submit" disabled={said === '' || recorder.busy}>
          Record it
        </Button>
      </div>
    </form>
  );
}
