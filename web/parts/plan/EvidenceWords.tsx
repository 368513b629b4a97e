import type { ReactNode } from 'react';
import { stockWords } from '~/core/move/stock';
import { fateWords } from '~/core/plan/engine/fateWords';
import { itemsWords } from '~/core/plan/engine/itemsCounted';
import { formatBytes } from '~/core/quantity/formatBytes';
import { copyGivenWords } from '~/core/plan/engine/copyGiven';
import type { StepEvidence } from '~/core/plan/plan';
import { bayShort } from '~/core/unit/bayName';
import type { UnitState } from '~/core/unit/state';

const PAGE_WORDS = { done: 'done', working: 'still at work', stopped: 'stopped', other: 'something else' } as const;

/** What was given for a step, as it was given. */
export function EvidenceWords({
  of,
  unit,
}: {
  readonly of: StepEvidence | undefined;
  readonly unit: Pick<UnitState, 'enclosures'>;
}): ReactNode {
  switch (of?.kind) {
    case undefined:
    case 'tick':
      return null;
    case 'picture':
      return (
        <a href={`/api/v1/papers/${of.paper}`} target="_blank" className="ml-2 text-action underline" rel="noreferrer">
          the picture
        </a>
      );
    case 'serial':
      return (
        <span className="ml-2 font-mono">
          {of.serial}
          {of.drive && `, ${of.drive.label ?? formatBytes(of.drive.bytes)}`}
        </span>
      );
    case 'drives':
      return (
        <span className="mt-1 block font-mono text-base">
          {of.drives.map(({ serial, label, bytes, looks }) => (
            <span key={serial} className="mr-4 inline-block whitespace-nowrap">
              {serial}, {label ?? formatBytes(bytes)}
              {looks !== 'new' && `, ${looks}`}
            </span>
          ))}
        </span>
      );
    case 'fates':
      return (
        <span className="mt-1 block text-base">
          {of.fates.map((fate) => (
            <span key={fate.serial} className="block">
              <span className="font-mono">{fate.serial}</span>: {fateWords(fate)}
            </span>
          ))}
        </span>
      );
    case 'items':
      return (
        <span className="ml-2">{of.missing.length === 0 ? 'all there' : `missing: ${itemsWords(of.missing)}`}</span>
      );
    case 'scans':
      return (
        <span className="mt-1 block font-mono text-base">
          {of.scans.map(({ bay, serial, drive }) => (
            <span key={bay} className="mr-4 inline-block whitespace-nowrap">
              {bayShort(unit, bay)} {serial}
              {drive && `, ${drive.label ?? formatBytes(drive.bytes)}`}
            </span>
          ))}
          {of.missing?.map(({ bay, serial }) => (
            <span key={bay} className="mr-4 inline-block whitespace-nowrap">
              {bayShort(unit, bay)} {serial} is missing
            </span>
          ))}
        </span>
      );
    case 'text':
      return <span className="ml-2">{of.text}</span>;
    case 'copy':
      return <span className="ml-2">{copyGivenWords(of)}</span>;
    case 'number':
      return <span className="ml-2 font-mono">{of.number}</span>;
    case 'stock':
      return (
        <span className="mt-1 block text-base">
          {of.lines.length === 0 ? 'nothing of that kind' : of.lines.map(stockWords).join('; ')}
          {of.seen === true && ' (what differs was seen, and is meant)'}
        </span>
      );
    case 'choice':
      return <span className="ml-2">{of.choice}</span>;
    case 'page':
      return (
        <span className="ml-2">
          its page: {PAGE_WORDS[of.says]}
          {of.note !== undefined && `, ${of.note}`}
        </span>
      );
    case 'wrong-out':
      return null;
    case 'unread':
      return <span className="ml-2">serial not read: {of.why}</span>;
    case 'speed':
      return (
        <span className="ml-2 font-mono">
          reads {of.read}, writes {of.write} MB/s
        </span>
      );
  }
}
