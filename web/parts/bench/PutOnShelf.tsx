'use client';
import { useRouter } from 'next/navigation';
import { useWatch } from 'react-hook-form';
import type { ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import type { Layout } from '~/core/layout/layout';
import { madeOtherwiseWords } from '~/core/platform/firstPowerOn';
import { layoutKey, layoutName } from '~/core/layout/layoutName';
import type { Profile } from '~/core/platform/profile';
import { BayName } from '~/core/unit/bayName';
import type { Enclosure } from '~/core/unit/state';
import { ComboField } from '~/web/parts/form/fields/ComboField';
import { ScanField } from '~/web/parts/form/fields/ScanField';
import { RadioField } from '~/web/parts/form/fields/SelectField';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Notice } from '~/web/parts/form/Notice';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { unread, useSheet } from '~/web/parts/form/sheet/useSheet';
import { beginCommission } from '~/web/parts/plan/commission/commissionValues';
import { tell } from '~/web/parts/tell/tell';

export interface PutOnShelfProps {
  readonly layout: Layout;
  readonly drives: readonly ListedDrive[];
  readonly profile: Profile;
  readonly enclosures: readonly Enclosure[];
  /** They are those of a unit, not only what the family usually has. */
  readonly areRegistered: boolean;
  readonly spares: number;
  readonly each: boolean;
  readonly places: readonly string[];
  readonly onCancel: () => void;
  readonly onDone: () => void;
}

/** Serials by bay, under names a form may have: a bay's own may hold points. */
const serialField = (i: number): string => `serial${String(i)}`;

/** Makes a unit of the chosen layout: led through by a plan, or recorded as it runs. Serials that were not on the sheet are asked for then. */
export function PutOnShelf(props: PutOnShelfProps): ReactNode {
  const { layout, drives, profile, enclosures, areRegistered, spares, each, places, onCancel, onDone } = props;
  const router = useRouter();
  const bays = enclosures.flatMap((box) => box.bays);
  // The boxes of a unit are numbered through.
  const bayOf = (bay: string): string => (areRegistered ? String(bays.indexOf(bay) + 1) : bay);
  const boxes = areRegistered
    ? { enclosures: enclosures.map(({ bays: of, ...box }) => ({ ...box, bays: of.length })) }
    : { bays: bays.length };
  const sheet = useSheet({
    start: {
      name: '',
      site: '',
      room: '',
      how: 'plan',
      ...Object.fromEntries(drives.map((_, i) => [serialField(i), ''])),
    } as Record<string, string>,
    sends: 'POST /units',
    at: {
      site: '/place/site',
      room: '/place/room',
      ...Object.fromEntries(drives.map((_, i) => [serialField(i), `/drives/${String(i)}/serial`])),
    },
    asks: (values) => {
      const unit = {
        name: (values['name'] ?? '').trim(),
        place: { site: (values['site'] ?? '').trim(), room: (values['room'] ?? '').trim() },
        profile: profile.id,
        ...boxes,
      };
      if (values['how'] === 'plan') return { body: unit };
      const serials = drives.map(({ serial }, i) => serial ?? (values[serialField(i)] ?? '').trim());
      const missing = serials.findIndex((serial) => serial === '');
      if (missing >= 0) return unread({ [serialField(missing)]: 'Read it off the drive itself.' });
      return {
        body: {
          ...unit,
          drives: drives.map(({ bay, bytes, basis, label, model, media, priceCents, boughtOn, lot }, i) => ({
            bay: bayOf(bay),
            bytes,
            basis,
            label,
            serial: serials[i] ?? '',
            model,
            media,
            priceCents,
            boughtOn,
            lot,
          })),
          pool: {
            scheme: layout.scheme,
            groupWidth: layout.groupWidth,
            spares,
            spareScope: each ? ('group' as const) : ('pool' as const),
          },
        },
      };
    },
    done: ({ id }, values) => {
      onDone();
      if (values['how'] !== 'plan') {
        tell(`${(values['name'] ?? '').trim()} is on the shelf.`);
        return router.push(`/units/${id}`);
      }
      // The plan is made of the very drives and the layout that were chosen here.
      const written = new Map(drives.map((drive) => [bayOf(drive.bay), drive]));
      beginCommission(id, {
        rows: (areRegistered ? bays.map((_, i) => String(i + 1)) : bays).map((bay) => {
          const { bytes, label, serial = '', model = '' } = written.get(bay) ?? {};
          return { bay, size: label ?? (bytes === undefined ? '' : `${String(bytes)} B`), serial, model };
        }),
        layout: layoutKey(layout),
        spares: String(layout.spareBays.length),
      });
      return router.push(`/units/${id}/commission`);
    },
  });
  const otherwise = madeOtherwiseWords(profile, drives.length, {
    scheme: layout.scheme,
    groupWidth: layout.groupWidth,
    spares: layout.spareBays.length,
  });
  const isPlanned = useWatch({ control: sheet.form.control, name: 'how' }) === 'plan';
  return (
    <Sheet of={sheet} sends={isPlanned ? 'On to the plan' : 'Put it on the shelf'} onCancel={onCancel}>
      <p>
        {layoutName(layout)}; made of {drives.length === 1 ? 'one drive' : `${String(drives.length)} drives`},{' '}
        {profile.name}.
      </p>
      {otherwise !== undefined && (
        <p className="font-semibold text-watch" data-made-otherwise>
          {otherwise}
        </p>
      )}
      <TextField label="Name of the unit" name="name" required maxLength={60} autoFocus />
      <div className="grid grid-cols-2 gap-4">
        <ComboField label="Site" name="site" maxLength={60} known={places} />
        <TextField label="Room" name="room" required maxLength={60} hint="Rack, cupboard, hut…" />
      </div>
      <RadioField
        label="How it stands"
        name="how"
        options={[
          {
            value: 'plan',
            words: 'It is still to be made',
            detail: 'A plan leads through it with these drives and this layout, from the box to the first copy.',
          },
          {
            value: 'runs',
            words: 'It runs like this already',
            detail: 'It is recorded as it is, with the serials of its drives.',
          },
        ]}
      />
      {!isPlanned && drives.some(({ serial }) => serial === undefined) && (
        <section aria-label="Serials that were not on the sheet" className="grid gap-3">
          <h3>Serials that were not on the sheet</h3>
          <p className="text-sm text-muted">
            Read them off the drives themselves, not off the trays. Everything later goes by serial.
          </p>
          {drives.map(({ bay, serial }, i) =>
            serial === undefined ? (
              <ScanField key={bay} label={BayName({ enclosures }, bay)} name={serialField(i)} />
            ) : null,
          )}
        </section>
      )}
      <Notice title="This records the unit; it does not touch it">
        <p>
          Making the pool on the unit itself erases every drive in it. Check that nothing is wanted from them, and
          follow the maker’s manual: it comes before this page.
        </p>
      </Notice>
    </Sheet>
  );
}
