import { useMemo, type ReactNode } from 'react';
import type { Appraisal, Assumptions } from '~/core/appraisal/appraise';
import { formatPercent } from '~/core/quantity/formatPercent';
import { formatBytes } from '~/core/quantity/formatBytes';
import { YEAR_HOURS } from '~/core/quantity/year';
import { worst } from '~/core/risk/riskOfLayout';
import type { ThoughtRate } from '~/core/risk/thoughtRate';
import { formatRate } from '~/core/quantity/formatRate';
import { RateWords } from '~/web/parts/drives/RateWords';
import { Select } from '~/web/parts/form/Select';
import { chanceWords, countWords, rangeOf, riskWords, rebuildWords } from './words';

/** Ports that units and switches have, Gbit/s. */
const PORTS = [1, 2.5, 5, 10, 25, 40];

/** Everything that is computed of the chosen layout, with what it was computed from. */
export function FiguresTab({
  of,
  inFull,
  rate,
  assumptions,
  money,
  onPort,
}: {
  readonly of: Appraisal;
  readonly inFull: (appraisal: Appraisal) => Appraisal;
  readonly rate: ThoughtRate;
  readonly assumptions: Assumptions;
  readonly money: (cents: number) => string;
  readonly onPort: (gigabits: number) => void;
}): ReactNode {
  const appraisal = useMemo(() => inFull(of), [inFull, of]);
  const { layout, rebuild, risk, speed, speedRebuilding, clientRead, clientWrite, centsPerUsableTB } = appraisal;
  const unused = new Map<string, number>();
  for (const { fromBytes, toBytes, why } of layout.unused)
    unused.set(why, (unused.get(why) ?? 0) + toBytes - fromBytes);
  const beyond = layout.survival.filter(({ failed }) => failed >= 1 && failed <= 4);
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-sm">
      <Row name="Usable">
        {formatBytes(layout.usableBytes, 'decimal', 2)}, {formatBytes(layout.usableBytes, 'binary', 2)}
      </Row>
      <Row name="Protection">{formatBytes(layout.protectionBytes, 'decimal', 2)}</Row>
      {[...unused].map(([why, bytes]) => (
        <Row key={why} name="Unused">
          {formatBytes(bytes, 'decimal', 2)}. {why}
        </Row>
      ))}
      <Row name="Survives any">{layout.guaranteedFailures}</Row>
      {beyond.map(({ failed, survived, of, lostShare }) => (
        <Row key={failed} name={failed === 1 ? 'Of 1 failure' : `Of ${String(failed)} failures`}>
          {survived} of {of} sets lose nothing
          {lostShare > 0 && `; on average ${formatPercent(lostShare)} of the bytes are lost`}
        </Row>
      ))}
      <Row name="Longest rebuild">
        {rebuild
          ? `${rebuildWords(rebuild)}, likely ${(rebuild.likely / 3600).toFixed(rebuild.likely < 36000 ? 1 : 0)} h: writes ${formatBytes(rebuild.writtenBytes)} on the new drive, reads ${formatBytes(rebuild.readBytes)} from the others`
          : 'nothing to rebuild from'}
      </Row>
      <Row name="Large files">
        reads {formatRate(speed.read)}, writes {formatRate(speed.write)}
        {speedRebuilding && `; rebuilding ${formatRate(speedRebuilding.read)} and ${formatRate(speedRebuilding.write)}`}
      </Row>
      <Row name="A client sees">
        {formatRate(clientRead)} and {formatRate(clientWrite)} through{' '}
        <Select
          label="Port"
          className="mt-1 w-36"
          value={String(assumptions.portGigabits)}
          onValue={(gigabits) => onPort(Number(gigabits))}
          options={PORTS.map((gigabits) => ({ value: String(gigabits), words: `${String(gigabits)} Gbit/s` }))}
        />
      </Row>
      <Row name="Small and random">
        {countWords(speed.smallReads)} reads, {countWords(speed.smallWrites)} writes a second
        {speedRebuilding &&
          `; rebuilding ${countWords(speedRebuilding.smallReads)} and ${countWords(speedRebuilding.smallWrites)}`}
      </Row>
      {risk && (
        <>
          <Row name={`Pool lost in ${String(assumptions.years)} years`}>
            {riskWords(risk.chanceOfLoss)}; on average after{' '}
            {rangeOf(risk.meanTimeToLoss, (hours) => countWords(hours / YEAR_HOURS))} years
          </Row>
          {rebuild &&
            (worst(risk.rebuildStops) > 0 ? (
              <Row name="A rebuild stops">
                {riskWords(risk.rebuildStops)}, at an unreadable sector: copied off and made anew, if nothing else fails
                meanwhile
              </Row>
            ) : (
              <Row name="Files lost">{riskWords(risk.filesLost)}, at an unreadable sector; the rebuild goes on</Row>
            ))}
          <Row name="Bytes lost a year">{rangeOf(risk.lostBytesPerTBYear, byteWords)} of each TB kept</Row>
          {rebuild && (
            <Row name="Unreadable sector">
              {chanceWords(risk.chanceOfUnreadable[0])} in one rebuild as usual in the field,{' '}
              {chanceWords(risk.chanceOfUnreadable[1])} at the data sheet’s bound
            </Row>
          )}
        </>
      )}
      <Row name="Price">
        {centsPerUsableTB === null ? 'not every drive has one' : `${money(centsPerUsableTB)} for a usable TB`}
      </Row>
      <dd className="col-span-2 mt-2 text-muted">
        Assumed: {assumptions.years} years, {assumptions.hoursToReplace} h until a new drive is in where no spare waits,
        half full, <RateWords rate={rate} /> of drives failing a year, independently. Age and a shared batch come on
        top.
      </dd>
    </dl>
  );
}

function Row({ name, children }: { readonly name: string; readonly children: ReactNode }): ReactNode {
  return (
    <>
      <dt className="text-muted">{name}</dt>
      <dd>{children}</dd>
    </>
  );
}

/** Of so little that a fraction of a byte says it, too. */
function byteWords(bytes: number): string {
  return bytes >= 1 ? formatBytes(bytes) : '< 1 B';
}
