'use client';
import dynamic from 'next/dynamic';
import { DropdownMenu } from 'radix-ui';
import { useRef, useState, type ReactNode } from 'react';
import type { Appraisal } from '~/core/appraisal/appraise';
import { worst } from '~/core/risk/riskOfLayout';
import { layoutName } from '~/core/layout/layoutName';
import { toCsv } from '~/service/takeAway/csv';
import { Button } from '~/web/parts/form/Button';
import { FileInput } from '~/web/parts/form/FileInput';
import { FormDialog } from '~/web/parts/form/FormDialog';
import type { Comparison } from '~/service/bench/comparisons';
import { tell, tellFault } from '~/web/parts/tell/tell';

interface Props {
  readonly sheet: string;
  /** Null while they are compared: a table half there, or of other drives, is not taken away. */
  readonly appraisals: readonly Appraisal[] | null;
  readonly mayStore: boolean;
  readonly onBring: (comparison: Comparison) => void;
}

const KeepForm = dynamic(() => import('./KeepForm').then((part) => part.KeepForm), { ssr: false });

const ITEM = 'cursor-pointer px-3 py-2 outline-none data-[highlighted]:bg-chosen data-[disabled]:opacity-50';

/** Keeping a comparison, sending it, taking it away and bringing it back, printing it. */
export function BenchMenu({ sheet, appraisals, mayStore, onBring }: Props): ReactNode {
  const [isNaming, setIsNaming] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const now = (name: string): Comparison => ({
    kind: 'patient-shelf-comparison',
    name,
    sheet,
    address: window.location.search.replace(/^\?/, ''),
  });

  const share = async (): Promise<void> => {
    await navigator.clipboard.writeText(window.location.href);
    tell(
      new URLSearchParams(window.location.search).has('kept')
        ? 'The address is copied.'
        : 'The address is copied; the drives go along only once it is kept under a name.',
    );
  };
  const bring = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    try {
      const found = JSON.parse(await chosen.text()) as Partial<Comparison>;
      if (
        found.kind !== 'patient-shelf-comparison' ||
        typeof found.sheet !== 'string' ||
        typeof found.address !== 'string'
      )
        throw new Error('other');
      onBring({ ...now(String(found.name ?? 'brought back')), sheet: found.sheet, address: found.address });
    } catch {
      tellFault(`${chosen.name} is no comparison taken away from here. Nothing was changed.`);
    }
  };
  const asCsv = (of: readonly Appraisal[]): string =>
    toCsv(
      [
        'layout',
        'legal',
        'reason',
        'usable bytes',
        'page shows bytes',
        'protection bytes',
        'unused bytes',
        'survives any',
        'rebuild low s',
        'rebuild likely s',
        'rebuild high s',
        'read bytes/s',
        'write bytes/s',
        'small reads/s',
        'small writes/s',
        'chance that the pool is lost, at most',
        'that a rebuild stops, at most',
        'that files are lost, at most',
        'price of a usable TB',
      ],
      of.map(({ layout, rebuild, risk, speed, centsPerUsableTB }) => [
        layoutName(layout),
        layout.legal ? 'yes' : 'no',
        layout.reasons[0] ?? '',
        layout.usableBytes,
        layout.shownBytes,
        layout.protectionBytes,
        layout.unusedBytes,
        layout.guaranteedFailures,
        rebuild ? Math.round(rebuild.low) : '',
        rebuild ? Math.round(rebuild.likely) : '',
        rebuild ? Math.round(rebuild.high) : '',
        Math.round(speed.read),
        Math.round(speed.write),
        Math.round(speed.smallReads),
        Math.round(speed.smallWrites),
        risk ? worst(risk.chanceOfLoss) : '',
        risk ? worst(risk.rebuildStops) : '',
        risk ? worst(risk.filesLost) : '',
        centsPerUsableTB === null ? '' : (centsPerUsableTB / 100).toFixed(2),
      ]),
    );

  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button>Keep and share</Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-20 min-w-56 border border-line bg-surface py-1 text-ink"
          >
            {mayStore && (
              <DropdownMenu.Item className={ITEM} onSelect={() => setIsNaming(true)}>
                Keep under a name…
              </DropdownMenu.Item>
            )}
            <DropdownMenu.Item className={ITEM} onSelect={() => void share()}>
              Copy the address
            </DropdownMenu.Item>
            <DropdownMenu.Item
              className={ITEM}
              disabled={!appraisals}
              onSelect={() => appraisals && download('layouts.csv', 'text/csv', asCsv(appraisals))}
            >
              Take the table away as CSV
            </DropdownMenu.Item>
            <DropdownMenu.Item
              className={ITEM}
              onSelect={() =>
                download('comparison.json', 'application/json', JSON.stringify(now('comparison'), null, 2))
              }
            >
              Take it away as JSON
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => file.current?.click()}>
              Bring a JSON back…
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => setTimeout(() => window.print(), 100)}>
              Print on one page
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <FileInput
        ref={file}
        label="Comparison as JSON"
        accept="application/json,.json"
        onFile={(chosen) => void bring(chosen)}
      />
      {isNaming && (
        <FormDialog title="Keep this comparison" onClose={() => setIsNaming(false)}>
          <KeepForm now={now} onDone={() => setIsNaming(false)} />
        </FormDialog>
      )}
    </>
  );
}

function download(name: string, type: string, text: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
