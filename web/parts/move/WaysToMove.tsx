import { Check, X } from 'lucide-react';
import type { ReactNode } from 'react';
import type { WayToMove } from '~/core/move/waysToMove';
import { ButtonLink } from '~/web/parts/form/Button';
import { hoursWords } from '~/core/quantity/hoursWords';

const WORDS: Readonly<Record<WayToMove['way'], string>> = {
  'carry-by-slot': 'Carry the drives over, in order',
  'carry-by-serial': 'Carry the drives over, in any order',
  assistant: 'By the maker’s assistant',
  copy: 'Copy over the network, and cut over',
};

const NARROWEST = {
  source: 'the old unit’s drives hold it up most',
  link: 'the gigabit between them holds it up most',
  target: 'the newer unit’s drives hold it up most',
  files: 'the many files hold it up most, not their bytes',
} as const;

/** "about 9 h", "3 days". */
function daysWords(days: number): string {
  return days < 1.5 ? `about ${hoursWords(days * 24)}` : `${String(Math.ceil(days))} days`;
}

/** Where the likely hours of a copy go, as a bar. */
function WhereTimeGoes({
  takes: { bytes, files, bottleneck, inPasses },
}: {
  readonly takes: NonNullable<WayToMove['takes']>;
}): ReactNode {
  const share = (bytes / (bytes + files)) * 100;
  return (
    <div className="mt-1 max-w-[420px] text-sm" data-time-goes={bottleneck}>
      <div className="flex h-5 border border-line" aria-hidden>
        <div className="bg-action" style={{ width: `${String(share)}%` }} />
        <div className="hatched" style={{ width: `${String(100 - share)}%` }} />
      </div>
      <p>
        Bytes {hoursWords(bytes)}, files {hoursWords(files)}: {NARROWEST[bottleneck]}.
      </p>
      <p data-passes>
        {inPasses
          ? `While people work, where a hundredth changes in a day: ${String(inPasses.passes)} passes over ${daysWords(inPasses.days)}, and everybody off for ${hoursWords(inPasses.offHours)} at the end.`
          : 'While people work it never catches up: more changes in a day than is copied in it.'}
      </p>
    </div>
  );
}

interface Props {
  readonly ways: readonly WayToMove[];
  readonly chosen: WayToMove['way'] | undefined;
  /** The address at which the plan of a way is shown; none where there is no plan yet. */
  readonly hrefOf?: (way: WayToMove['way']) => string;
  /** Where the newer unit is commissioned, where it has no pool yet. */
  readonly commissionAt?: string | undefined;
}

/** Every way with its reasons; what is possible first. */
export function WaysToMove({ ways, chosen, hrefOf, commissionAt }: Props): ReactNode {
  const sorted = [...ways].sort((a, b) => Number(b.possible) - Number(a.possible));
  return (
    <ul className={`grid gap-3 ${chosen === undefined ? 'lg:grid-cols-2' : ''}`} data-ways>
      {sorted.map(({ way, possible, reasons, hours, pointOfNoReturn, takes }) => (
        <li key={way} className={`border bg-surface p-4 ${possible ? 'border-action' : 'border-line'}`} data-way={way}>
          <h2 className="flex items-center gap-2 text-lg">
            {possible ? (
              <Check size={18} aria-hidden className="text-action" />
            ) : (
              <X size={18} aria-hidden className="text-muted" />
            )}
            {WORDS[way]}
            <span className="text-sm font-normal text-muted">{possible ? 'possible' : 'not possible'}</span>
          </h2>
          {possible && (
            <p className="font-semibold">
              {way === 'carry-by-slot' || way === 'carry-by-serial' ? 'Both are off for ' : ''}
              {hoursWords(hours[0])} to {hoursWords(hours[2])}, likely {hoursWords(hours[1])}
            </p>
          )}
          {takes && <WhereTimeGoes takes={takes} />}
          <ul className="mt-1 list-disc pl-5">
            {reasons.map((reason) => (
              <li key={reason}>{reason}</li>
            ))}
          </ul>
          {!possible && way === 'copy' && commissionAt !== undefined && (
            <p className="mt-2">
              <ButtonLink href={commissionAt}>Commission it first</ButtonLink>
            </p>
          )}
          {pointOfNoReturn !== undefined && (
            <p className="mt-2 border-l-4 border-thinned pl-3">
              <strong>No way back from here.</strong> {pointOfNoReturn}
            </p>
          )}
          {possible && hrefOf && (
            <p className="mt-3">
              {chosen === way ? (
                <strong>Its plan stands here.</strong>
              ) : (
                <ButtonLink href={hrefOf(way)}>See its plan</ButtonLink>
              )}
            </p>
          )}
        </li>
      ))}
    </ul>
  );
}
