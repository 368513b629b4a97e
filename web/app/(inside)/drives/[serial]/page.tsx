import Link from '~/web/parts/frame/Link';
import { notFound } from 'next/navigation';
import { whereWords } from '~/core/driveLife/driveEventWords';
import { figuresOf } from '~/core/drive/media';
import { formatBytes, formatExactBytes } from '~/core/quantity/formatBytes';
import { daysBetween } from '~/core/quantity/days';
import { CONDITION_WORDS } from '~/core/unit/standingWords';
import type { DriveCondition } from '~/core/unit/state';
import { readDrive } from '~/service/drives/readDrives';
import { readOrganisation, readPlaces } from '~/service/settings/readSettings';
import { mayAct } from '~/service/access/viewer';
import type { Metric } from '~/schemas/metrics';
import { DaysChart } from '~/web/parts/chart/DaysChart';
import { ButtonLink } from '~/web/parts/form/Button';
import { DriveActions } from '~/web/parts/drives/DriveActions';
import { METRIC_WORDS } from '~/web/parts/trend/metricWords';
import { Trends } from '~/web/parts/trend/Trends';
import { LedgerWords } from '~/web/parts/unit/LedgerWords';
import { Moment } from '~/web/parts/unit/Moment';
import { Papers } from '~/web/parts/unit/Papers';
import { Row } from '~/web/parts/unit/Row';
import { Serial } from '~/web/parts/unit/Serial';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Drive' };

export default insidePage('reader', async ({ app, viewer, params, now }) => {
  const serial = decodeURIComponent(params['serial'] ?? '');
  const drive = await readDrive(app, serial);
  if (!drive) notFound();
  const [{ currency }, sites] = await Promise.all([readOrganisation(app), readPlaces(app)]);
  const { life, condition, note, partOf, ledger, readings, sameLot, papers, version } = drive;
  const { where, wiped, tested, replacement } = life;
  const { bytes, basis, model, media = 'hard-disk', lot, boughtOn, warrantyUntil, priceCents, form } = life.drive;
  const mayRecord = mayAct(viewer, 'keeper');
  const today = now.toISOString().slice(0, 10);
  const first = ledger.at(-1);
  const years = daysBetween(boughtOn ?? first?.happenedAt ?? life.whereSince, now.toISOString()) / 365.25;
  return (
    <div className="grid items-start gap-6 p-5 lg:grid-cols-[minmax(0,1fr)_380px]">
      <div className="grid grid-cols-[minmax(0,1fr)] gap-5">
        <h1 className="text-xl">
          <Serial of={serial} />
        </h1>
        <dl className="grid max-w-[640px] grid-cols-[auto_1fr] gap-x-6 gap-y-1">
          <Row name="Where">
            {where.kind === 'bay' ? (
              <Link
                href={`/units/${where.unit}?bay=${encodeURIComponent(where.bay)}`}
                className="text-action underline"
              >
                {whereWords(where)}
              </Link>
            ) : (
              whereWords(where)
            )}
            , since <Moment at={life.whereSince} />
          </Row>
          {condition !== null && (
            <Row name="Condition">
              <span className={condition === 'well' ? '' : 'font-semibold text-thinned'}>
                {CONDITION_WORDS[condition as DriveCondition]}
              </span>
              {note !== undefined && `: ${note}`}
            </Row>
          )}
          {partOf !== null && <Row name="Part of">{partOf}</Row>}
          <Row name="Holds">
            {formatBytes(bytes)}, <span className="font-mono">{formatExactBytes(bytes)}</span> bytes
            {basis !== 'exact' && ', by its label: read the exact bytes before a swap'}
          </Row>
          <Row name="Kind">{[figuresOf(media).name, form, model].filter(Boolean).join(', ')}</Row>
          <Row name="Age">
            {boughtOn === undefined
              ? `age unknown, here for ${years < 0.05 ? 'less than a month' : `${years.toFixed(1)} years`}`
              : `${years.toFixed(1)} years, bought on ${boughtOn}`}
            {years >= 5 && <strong className="text-watch"> past the five years people plan with</strong>}
          </Row>
          <Row name="Warranty">
            {warrantyUntil === undefined
              ? 'not written down'
              : warrantyUntil < today
                ? `ended ${warrantyUntil}`
                : `until ${warrantyUntil}`}
          </Row>
          {priceCents !== undefined && (
            <Row name="Paid">
              {new Intl.NumberFormat('en', { style: 'currency', currency }).format(priceCents / 100)}
            </Row>
          )}
          {tested && (
            <Row name="Tested">
              {tested.result}, <Moment at={tested.at} />
              {tested.note !== undefined && `: ${tested.note}`}
            </Row>
          )}
          {wiped && (
            <Row name="Wiped">
              {wiped.method} by {wiped.by}, <Moment at={wiped.at} />: {wiped.how}
            </Row>
          )}
          {replacement !== undefined && (
            <Row name="Replaced by">
              <Link href={`/drives/${encodeURIComponent(replacement)}`} className="text-action underline">
                <Serial of={replacement} />
              </Link>
            </Row>
          )}
        </dl>
        {mayRecord && <DriveActions serial={serial} version={version} life={life} places={sites} papers={papers} />}
        <section aria-label="Its life">
          <h2 className="mb-1 text-lg">Its life</h2>
          <table className="w-full border border-line bg-surface">
            <thead className="sr-only">
              <tr>
                <th scope="col">When</th>
                <th scope="col">What</th>
                <th scope="col">Where</th>
                <th scope="col">Recorded by</th>
              </tr>
            </thead>
            <tbody>
              {ledger.map((line) => (
                <tr key={`${line.unit?.id ?? ''} ${String(line.seq)}`} className="border-t border-line first:border-0">
                  <td className="px-3 py-1 align-top whitespace-nowrap text-muted">
                    <Moment at={line.happenedAt} />
                  </td>
                  <td className="px-3 py-1">
                    <LedgerWords words={line.words} withdrawnFor={line.withdrawnFor} />
                  </td>
                  <td className="px-3 py-1 align-top text-muted">
                    {line.unit && (
                      <Link href={`/units/${line.unit.id}`} className="underline decoration-line">
                        {line.unit.name}
                      </Link>
                    )}
                  </td>
                  <td className="px-3 py-1 align-top text-muted max-sm:hidden">{line.recordedBy}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        <Trends serial={serial} />
        <section aria-label="Papers">
          <h2 className="mb-2 text-lg">Papers</h2>
          <Papers of={{ serial }} papers={papers} mayRecord={mayRecord} />
        </section>
      </div>
      <aside className="grid gap-5 border border-line bg-surface p-4" aria-label="Readings and lot">
        <div className="flex flex-wrap gap-2">
          <ButtonLink href={`/labels?drive=${encodeURIComponent(serial)}`}>Label</ButtonLink>
        </div>
        <section aria-label="Readings">
          <h2 className="text-lg">Readings</h2>
          {Object.keys(readings).length === 0 && (
            <p className="text-muted">None has been entered. Error counts that grow are the sign to watch.</p>
          )}
          {(Object.keys(readings) as Metric[]).map((metric) => {
            const [words, unit] = METRIC_WORDS[metric];
            const points = (readings[metric] ?? []).map(({ day, last }) => ({ day, value: last }));
            const [only, ...others] = points;
            // One day is no line yet, and a reading all the same.
            return only && others.length === 0 ? (
              <p key={metric} className="mt-2 flex justify-between gap-3 text-sm text-muted">
                <span>{words}</span>
                <span>
                  {only.value} {unit}, read {only.day}
                </span>
              </p>
            ) : (
              <DaysChart key={metric} label={words} unit={unit} points={points} />
            );
          })}
        </section>
        <section aria-label="Same lot">
          <h2 className="text-lg">Same lot</h2>
          {lot === undefined ? (
            <p className="text-muted">Its lot is not written down. Drives of one lot tend to fail together.</p>
          ) : (
            <>
              <p className="text-muted">
                Lot {lot}:{' '}
                {sameLot.length === 0
                  ? 'no other drive of it is known here.'
                  : `${String(sameLot.length)} more. Drives of one lot tend to fail together.`}
              </p>
              <ul>
                {sameLot.map((other) => (
                  <li key={other.life.serial} className="flex justify-between gap-3 border-b border-line py-1">
                    <Link href={`/drives/${encodeURIComponent(other.life.serial)}`}>
                      <Serial of={other.life.serial} />
                    </Link>
                    <span
                      className={
                        other.condition === null || other.condition === 'well'
                          ? 'text-muted'
                          : 'font-semibold text-thinned'
                      }
                    >
                      {other.condition === null || other.condition === 'well'
                        ? whereWords(other.life.where)
                        : CONDITION_WORDS[other.condition as DriveCondition]}
                    </span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </section>
      </aside>
    </div>
  );
});
