'use client';
import { useState, type ReactNode } from 'react';
import type { Label } from '~/service/units/readLabels';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { PickLine } from '~/web/parts/form/PickLine';
import { Tick } from '~/web/parts/form/Tick';

/** Label sheets as they are sold for A4, by how many to a page and how large each is, in millimetres. */
const SHEETS = [
  {
    id: '3x8',
    name: '24 to a page, 70 × 37 mm',
    columns: 3,
    rows: 8,
    width: 70,
    height: 37,
    top: 0.5,
    left: 0,
    gap: 0,
  },
  {
    id: '3x7',
    name: '21 to a page, 63.5 × 38.1 mm',
    columns: 3,
    rows: 7,
    width: 63.5,
    height: 38.1,
    top: 15.1,
    left: 7.2,
    gap: 2.5,
  },
  {
    id: '4x12',
    name: '48 to a page, 45.7 × 21.2 mm',
    columns: 4,
    rows: 12,
    width: 45.7,
    height: 21.2,
    top: 21.3,
    left: 9.8,
    gap: 2.5,
  },
  {
    id: '5x13',
    name: '65 to a page, 38.1 × 21.2 mm',
    columns: 5,
    rows: 13,
    width: 38.1,
    height: 21.2,
    top: 10.7,
    left: 4.7,
    gap: 2.5,
  },
] as const;

const KINDS = [
  ['unit', 'The unit'],
  ['bay', 'Its bays'],
  ['drive', 'Its drives'],
] as const;

/** Labels on a sheet, to scale; labels already used up on a sheet can be passed over. */
export function LabelSheet({ labels }: { readonly labels: readonly Label[] }): ReactNode {
  const kinds = KINDS.filter(([kind]) => labels.some((label) => label.kind === kind));
  const [chosen, setChosen] = useState<readonly string[]>(kinds.map(([kind]) => kind));
  const [sheetId, setSheetId] = useState<string>(SHEETS[0].id);
  const [used, setUsed] = useState('0');
  const sheet = SHEETS.find(({ id }) => id === sheetId) ?? SHEETS[0];
  const perPage = sheet.columns * sheet.rows;
  const skip = Math.min(perPage - 1, Math.max(0, Math.floor(Number(used)) || 0));
  const cells: (Label | null)[] = [
    ...Array.from({ length: skip }, () => null),
    ...labels.filter(({ kind }) => chosen.includes(kind)),
  ];
  const pages = Array.from({ length: Math.max(1, Math.ceil(cells.length / perPage)) }, (_, i) =>
    cells.slice(i * perPage, (i + 1) * perPage),
  );
  const isSmall = sheet.height < 30;
  return (
    <>
      <div className="no-print mb-5 flex flex-wrap items-end gap-4">
        {kinds.length > 1 && (
          <fieldset className="flex gap-4">
            <legend className="sr-only">What to label</legend>
            {kinds.map(([kind, words]) => (
              <Tick
                key={kind}
                words={words}
                isOn={chosen.includes(kind)}
                onChange={(isOn) => setChosen(isOn ? [...chosen, kind] : chosen.filter((one) => one !== kind))}
              />
            ))}
          </fieldset>
        )}
        <PickLine
          label="Sheet"
          value={sheetId}
          onValue={setSheetId}
          options={SHEETS.map(({ id, name }) => ({ value: id, words: name }))}
        />
        <div className="w-44">
          <Field
            label="Already used on it"
            type="number"
            min={0}
            max={perPage - 1}
            suffix="labels"
            value={used}
            onChange={(event) => setUsed(event.target.value)}
          />
        </div>
        <Button look="main" onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <div className="overflow-x-auto print:overflow-visible">
        {pages.map((page, n) => (
          <div
            key={n}
            data-label-page
            className="label-page mb-6 grid content-start bg-white text-black outline outline-1 outline-line print:mb-0 print:outline-none"
            style={{
              width: '210mm',
              height: '297mm',
              padding: `${String(sheet.top)}mm 0 0 ${String(sheet.left)}mm`,
              gridTemplateColumns: `repeat(${String(sheet.columns)}, ${String(sheet.width)}mm)`,
              columnGap: `${String(sheet.gap)}mm`,
              gridAutoRows: `${String(sheet.height)}mm`,
            }}
          >
            {page.map((label, i) =>
              label === null ? (
                <span key={i} />
              ) : (
                <div
                  key={i}
                  className={`flex items-center gap-[2mm] overflow-hidden ${isSmall ? 'p-[1.5mm]' : 'p-[3mm]'}`}
                  data-label={label.kind}
                >
                  {/* Drawn by our own server from an address of ours: nothing of a user's is in the markup. */}
                  <span
                    role="img"
                    aria-label={label.address}
                    className={`block shrink-0 [&_svg]:h-full [&_svg]:w-full ${isSmall ? 'h-[16mm] w-[16mm]' : 'h-[27mm] w-[27mm]'}`}
                    dangerouslySetInnerHTML={{ __html: label.code }}
                  />
                  <span className="min-w-0">
                    <span
                      className={`block leading-none font-bold ${label.kind === 'drive' ? 'font-mono' : ''} ${isSmall ? 'text-[14pt]' : 'text-[22pt]'}`}
                    >
                      {label.large}
                    </span>
                    <span className={`block leading-tight ${isSmall ? 'text-[6pt]' : 'text-[8pt]'}`}>
                      {label.small}
                    </span>
                    {label.serial !== null && (
                      <span
                        className={`block leading-tight break-all font-mono ${isSmall ? 'text-[6pt]' : 'text-[8pt]'}`}
                      >
                        {label.serial}
                      </span>
                    )}
                  </span>
                </div>
              ),
            )}
          </div>
        ))}
      </div>
    </>
  );
}
