'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState, type FormEvent, type ReactNode } from 'react';
import type { Scheme } from '~/core/layout/scheme';
import type { Profile } from '~/core/platform/profile';
import { readRunning } from '~/core/report/readRunning';
import { enclosuresNamed } from '~/core/unit/enclosures';
import { isRefusal } from '~/core/value/refusal';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { newId } from '~/web/parts/form/newId';
import { Notice } from '~/web/parts/form/Notice';
import { SubmitButton } from '~/web/parts/form/SubmitButton';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { newPoolRow, RunningPart, type PoolRow } from './RunningPart';

interface Family {
  readonly id: string;
  readonly name: string;
  readonly summary: string;
  readonly choices: readonly number[];
  readonly perEnclosure: number | null;
  readonly schemes: readonly Scheme[];
  readonly unitPage: Profile['unitPage'];
}

interface Box {
  readonly name: string;
  readonly bays: string;
  readonly dial: string;
}

interface Props {
  readonly profiles: readonly Family[];
  readonly places: readonly { readonly site: string; readonly room: string }[];
}

const DETAILS = [
  ['serial', 'Serial of the unit', 'text', ''],
  ['address', 'Address on the network', 'text', ''],
  ['hardwareAddress', 'Hardware address', 'text', 'Its last digits tell it apart'],
  ['firmware', 'Firmware', 'text', ''],
  ['supplies', 'Supplies', 'text', 'One or two, inside or outside'],
  ['ports', 'Network ports', 'text', 'How many, how fast, bonded'],
  ['call', 'Who to call', 'text', ''],
  ['boughtOn', 'Bought on', 'date', ''],
  ['warrantyUntil', 'Warranty until', 'date', ''],
] as const;

/** A unit as it stands: name, place, family, its boxes in the order they are cabled, what runs on it, and what its label says. */
export function RegisterForm({ profiles, places }: Props): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const [family, setFamily] = useState(profiles.find(({ id }) => id === 'plain')?.id ?? profiles[0]?.id ?? '');
  const chosen = profiles.find(({ id }) => id === family);
  const fresh = (of: Family | undefined): readonly Box[] => [{ name: 'Head', bays: String(of?.perEnclosure ?? of?.choices[0] ?? 4), dial: '' }];
  const [boxes, setBoxes] = useState<readonly Box[]>(fresh(chosen));
  const [site, setSite] = useState('');
  const [isRunning, setRunning] = useState(false);
  const [page, setPage] = useState('');
  const [boughtOn, setBoughtOn] = useState('');
  const [cache, setCache] = useState('');
  const [pools, setPools] = useState<readonly PoolRow[]>([]);
  const [unread, setUnread] = useState<{ readonly pointer: string; readonly sentence: string } | null>(null);
  const schemes = chosen?.schemes ?? [];
  const cabled = useMemo(
    () => ({
      enclosures: enclosuresNamed(
        boxes.map(({ name, bays, dial }) => ({ name: name.trim(), bays: Number(bays) || 0, ...(dial.trim() === '' ? {} : { dial: Number(dial) }) })),
      ),
      profile: { unitPage: chosen?.unitPage ?? { counts: 'TiB' as const, prints: 'TiB' as const } },
    }),
    [boxes, chosen],
  );

  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    const running = isRunning ? readRunning(cabled, page, pools, boughtOn, cache) : undefined;
    setUnread(running && isRefusal(running) ? { pointer: (running.pointer ?? '').slice(1), sentence: running.sentence } : null);
    if (running && isRefusal(running)) return;
    const details = Object.fromEntries(DETAILS.flatMap(([field]) => (text(field) === '' ? [] : [[field, text(field)]])));
    const answer = await run('POST /units', {
      body: {
        name: text('name'),
        place: { site: text('site'), room: text('room'), ...(text('shelf') === '' ? {} : { shelf: text('shelf') }) },
        profile: family,
        ...running,
        enclosures: boxes.map(({ name, bays, dial }) => ({ name: name.trim(), bays: Number(bays), ...(dial.trim() === '' ? {} : { dial: Number(dial) }) })),
        ...(Object.keys(details).length === 0 && text('notes') === ''
          ? {}
          : { details: { ...details, ...(text('notes') === '' ? {} : { notes: text('notes') }) } }),
      },
    });
    if (!answer) return;
    tell(`${text('name')} is registered.`);
    router.push(`/units/${answer.id}`);
  };
  const change = (i: number, part: Partial<Box>): void => setBoxes(boxes.map((box, k) => (k === i ? { ...box, ...part } : box)));
  return (
    <form method="post" className="grid gap-5" onSubmit={(event) => void submit(event)}>
      {(unread ?? fault) && <Notice grave>{(unread ?? fault)?.sentence}</Notice>}
      <div className="grid gap-4 sm:grid-cols-2">
        <Field label="Name" name="name" required maxLength={60} autoFocus autoComplete="off" hint="What people call it" fault={fault?.fields['name']} />
        <label className="block">
          <span className="mb-1 block font-semibold">Family</span>
          <select
            className="field"
            value={family}
            name="profile"
            onChange={(event) => {
              setFamily(event.target.value);
              setBoxes(fresh(profiles.find(({ id }) => id === event.target.value)));
            }}
          >
            {profiles.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <span className="mt-1 block text-sm text-muted">{chosen?.summary}</span>
        </label>
        <Field
          label="Site"
          name="site"
          required
          maxLength={60}
          list="register-sites"
          autoComplete="off"
          value={site}
          onChange={(event) => setSite(event.target.value)}
        />
        <Field label="Room" name="room" required maxLength={60} list="register-rooms" autoComplete="off" />
        <Field label="Shelf" name="shelf" maxLength={60} autoComplete="off" hint="When a room has several" />
        <datalist id="register-sites">
          {[...new Set(places.map((place) => place.site))].map((of) => (
            <option key={of} value={of} />
          ))}
        </datalist>
        <datalist id="register-rooms">
          {[...new Set(places.filter((place) => place.site === site).map(({ room }) => room))].map((of) => (
            <option key={of} value={of} />
          ))}
        </datalist>
      </div>
      <fieldset className="grid gap-2">
        <legend className="mb-1 text-lg font-semibold">Boxes, in the order they are cabled</legend>
        {boxes.map((box, i) => (
          <div key={i} className="grid grid-cols-2 items-end gap-3 sm:grid-cols-[1fr_90px_90px_auto]">
            <Field
              label={i === 0 ? 'Head' : `Extension ${String(i)}`}
              value={box.name}
              required
              maxLength={60}
              onChange={(event) => change(i, { name: event.target.value })}
              fault={fault?.fields[`enclosures/${String(i)}/name`]}
            />
            <Field label="Bays" type="number" min={1} max={1000} value={box.bays} required onChange={(event) => change(i, { bays: event.target.value })} />
            <Field label="Dial" type="number" min={0} max={255} value={box.dial} onChange={(event) => change(i, { dial: event.target.value })} />
            {i > 0 ? (
              <Button className="mb-1" onClick={() => setBoxes(boxes.filter((_, k) => k !== i))}>
                Take off<span className="sr-only"> {box.name}</span>
              </Button>
            ) : (
              <span />
            )}
          </div>
        ))}
        <div>
          <Button
            onClick={() =>
              setBoxes([
                ...boxes,
                { name: `Extension ${String(boxes.length)}`, bays: String(chosen?.perEnclosure ?? boxes.at(-1)?.bays ?? 4), dial: String(boxes.length) },
              ])
            }
          >
            Add an extension
          </Button>
        </div>
      </fieldset>
      <fieldset className="grid gap-3">
        <legend className="mb-1 text-lg font-semibold">What is in it</legend>
        <div className="flex flex-wrap gap-x-5 gap-y-1" role="radiogroup" aria-label="What is in it">
          {[
            [false, 'Nothing yet, or it is put in bay by bay'],
            [true, 'It runs already: say what its page shows'],
          ].map(([value, label]) => (
            <label key={String(value)} className="flex min-h-9 items-center gap-2">
              <input type="radio" name="running" checked={isRunning === value} onChange={() => setRunning(value === true)} /> {label}
            </label>
          ))}
        </div>
        {isRunning && (
          <RunningPart
            boxes={cabled}
            schemes={schemes}
            page={page}
            setPage={setPage}
            boughtOn={boughtOn}
            setBoughtOn={setBoughtOn}
            cache={cache}
            setCache={setCache}
            pools={pools}
            setPools={setPools}
            addPool={() => setPools([...pools, newPoolRow(newId(), pools.length + 1)])}
            faults={unread ? { [unread.pointer]: unread.sentence } : (fault?.fields ?? {})}
          />
        )}
      </fieldset>
      <details>
        <summary className="min-h-9 cursor-pointer text-lg font-semibold">What its label and its papers say</summary>
        <div className="mt-3 grid gap-4 sm:grid-cols-2">
          {DETAILS.map(([field, label, type, hint]) => (
            <Field
              key={field}
              label={label}
              name={field}
              type={type}
              autoComplete="off"
              {...(hint === '' ? {} : { hint })}
              fault={fault?.fields[`details/${field}`]}
            />
          ))}
          <label className="block sm:col-span-2">
            <span className="mb-1 block font-semibold">Notes</span>
            <textarea name="notes" className="field" rows={3} maxLength={2000} />
          </label>
        </div>
      </details>
      <div>
        <SubmitButton busy={busy}>{busy ? 'Storing…' : 'Register it'}</SubmitButton>
      </div>
    </form>
  );
}
