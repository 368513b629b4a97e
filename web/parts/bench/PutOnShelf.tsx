'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent, type ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import type { Layout } from '~/core/layout/layout';
import { layoutName } from '~/core/layout/layoutName';
import type { Profile } from '~/core/platform/profile';
import { BayName } from '~/core/unit/bayName';
import type { Enclosure } from '~/core/unit/state';
import { Button } from '~/web/parts/form/Button';
import { Dialog } from '~/web/parts/form/Dialog';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { api } from '~/web/parts/form/api';
import { SubmitButton } from '~/web/parts/form/SubmitButton';
import { tell } from '~/web/parts/tell/tell';

interface Props {
  readonly open: boolean;
  readonly onOpenChange: (open: boolean) => void;
  readonly layout: Layout;
  readonly drives: readonly ListedDrive[];
  readonly profile: Profile;
  readonly enclosures: readonly Enclosure[];
  /** They are those of a unit, not only what the family usually has. */
  readonly areRegistered: boolean;
  readonly spares: number;
  readonly each: boolean;
  readonly places: readonly string[];
  readonly onDone: () => void;
}

/** Turns the chosen layout into a unit at a place. Serials that were not on the sheet are asked for here. */
export function PutOnShelf({ open, onOpenChange, layout, drives, profile, enclosures, areRegistered, spares, each, places, onDone }: Props): ReactNode {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<{ readonly sentence: string; readonly fields: Readonly<Record<string, string>> } | null>(null);
  const bays = enclosures.flatMap((box) => box.bays);
  const unread = drives.filter(({ serial }) => serial === undefined);

  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    setBusy(true);
    setFault(null);
    const sent = await api('POST /units', {
      body: {
        name: text('name'),
        place: { site: text('site'), room: text('room') },
        profile: profile.id,
        ...(areRegistered ? { enclosures: enclosures.map(({ bays: of, ...box }) => ({ ...box, bays: of.length })) } : { bays: bays.length }),
        drives: drives.map(({ bay, bytes, basis, label, serial, model, media, priceCents, boughtOn, lot }) => ({
          // The boxes of a unit are numbered through.
          bay: areRegistered ? String(bays.indexOf(bay) + 1) : bay,
          bytes,
          basis,
          label,
          serial: serial ?? text(`serial ${bay}`),
          model,
          media,
          priceCents,
          boughtOn,
          lot,
        })),
        pool: { scheme: layout.scheme, groupWidth: layout.groupWidth, spares, spareScope: each ? 'group' : 'pool' },
      },
    });
    setBusy(false);
    if (sent.kind === 'refused') setFault(sent);
    else {
      onDone();
      tell(`${text('name')} is on the shelf.`);
      router.push(`/units/${sent.answer.id}`);
    }
  };

  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Put it on the shelf">
      <form method="post" onSubmit={(event) => void submit(event)} className="grid gap-4">
        <p>
          {layoutName(layout)}; made of {drives.length === 1 ? 'one drive' : `${String(drives.length)} drives`}, {profile.name}.
        </p>
        {fault && <Notice grave>{fault.sentence}</Notice>}
        <Field label="Name of the unit" name="name" required maxLength={60} autoFocus autoComplete="off" fault={fault?.fields['name']} />
        <div className="grid grid-cols-2 gap-4">
          <Field label="Site" name="site" required maxLength={60} list="known-sites" autoComplete="off" fault={fault?.fields['place/site']} />
          <Field label="Room" name="room" required maxLength={60} autoComplete="off" hint="Rack, cupboard, hut…" fault={fault?.fields['place/room']} />
        </div>
        <datalist id="known-sites">
          {places.map((place) => (
            <option key={place} value={place} />
          ))}
        </datalist>
        {unread.length > 0 && (
          <fieldset className="grid gap-3">
            <legend className="mb-1 font-semibold">Serials that were not on the sheet</legend>
            <p className="text-sm text-muted">Read them off the drives themselves, not off the trays. Everything later goes by serial.</p>
            {unread.map(({ bay }) => (
              <Field
                key={bay}
                label={BayName({ enclosures }, bay)}
                name={`serial ${bay}`}
                required
                maxLength={64}
                autoComplete="off"
                className="field font-mono"
              />
            ))}
          </fieldset>
        )}
        <Notice title="This records the unit; it does not touch it">
          <p>
            Making the pool on the unit itself erases every drive in it. Check that nothing is wanted from them, and follow the maker’s manual: it comes before
            this page.
          </p>
        </Notice>
        <div className="flex justify-end gap-2">
          <Button onClick={() => onOpenChange(false)}>Not yet</Button>
          <SubmitButton busy={busy}>{busy ? 'Storing…' : 'Put it on the shelf'}</SubmitButton>
        </div>
      </form>
    </Dialog>
  );
}
