'use client';
import dynamic from 'next/dynamic';
import { addMonths, format, max, subDays } from 'date-fns';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { schemeWords } from '~/core/layout/scheme';
import { formatBytes } from '~/core/quantity/formatBytes';
import { hoursWords } from '~/core/quantity/hoursWords';
import type { GrowthGround } from '~/service/units/growthGround';
import { Button, ButtonLink } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';
import { Notice } from '~/web/parts/form/Notice';
import { Refused } from '~/web/parts/way/Refused';
import { useRecord } from '~/web/parts/record/useRecord';
import { riskWords } from '~/web/parts/bench/words';
import { offered, type GrownAsAsked } from './GrowthForm';
import type { GrowthFound } from './growthWorker';
import { WhatChanges } from './WhatChanges';

const OrderForm = dynamic(() => import('~/web/parts/drives/OrderForms').then((part) => part.OrderForm), { ssr: false });

interface Props {
  readonly unit: string;
  readonly version: number;
  readonly pool: { readonly id: string; readonly name: string; readonly mayConvert: boolean };
  readonly extensionBays: number | null;
  readonly ground: GrowthGround;
  readonly of: GrownAsAsked;
  readonly currency: string;
  readonly today: string;
  readonly mayRecord: boolean;
}

type Step = NonNullable<GrowthFound['best']>['steps'][number];

const KIND_WORDS: Readonly<Record<GrowthFound['others'][number]['kind'], string>> = {
  'swap-only': 'Only swap members',
  'add-only': 'Only add drives',
  'group-only': 'Only add whole groups',
  'new-unit': 'Change nothing, then a new unit',
  'buy-all-now': 'Buy everything now',
};

function stepWords({ kind, to, bays, bytes, isInNewUnit }: Step): string {
  const size = formatBytes(bytes);
  const there = isInNewUnit ? ' of the new unit' : '';
  const drives = bays.length === 1 ? `one drive of ${size}` : `${String(bays.length)} drives of ${size}`;
  if (kind === 'new-unit') return `Buy the new unit with ${drives}, and move everything into it`;
  if (kind === 'extend') return `Hang on an extension of ${String(bays.length)} bays, empty`;
  if (kind === 'convert')
    return `Change it to ${to ? schemeWords(to) : 'another level'}${bays.length === 0 ? '' : `, with ${drives} in ${bays.length === 1 ? 'bay' : 'bays'} ${bays.join(', ')}`}`;
  if (kind === 'swap') return `Swap the drive in bay ${bays[0] ?? ''}${there} for ${size}`;
  return bays.length === 1
    ? `Add a ${size} drive in bay ${bays[0] ?? ''}${there}`
    : `Add ${drives} in bays ${bays.join(', ')}${there}`;
}

interface Order {
  readonly count: string;
  readonly size: string;
  readonly price: string;
}

const isMoving = ({ kind }: Step): boolean => kind === 'new-unit';

/** The drives of these steps, a size each. */
function ordersOf(steps: readonly Step[]): Order[] {
  return [...new Set(steps.flatMap(({ bytes }) => (bytes > 0 ? [bytes] : [])))].map((bytes) => ({
    count: String(steps.reduce((sum, step) => (step.bytes === bytes ? sum + step.bays.length : sum), 0)),
    size: formatBytes(bytes),
    price: '',
  }));
}

/** The plan of the first step: it is made when the drives are there. */
function PlanFor({
  unit,
  pool,
  kind,
  newUnit,
}: {
  readonly unit: string;
  readonly pool: string;
  readonly kind: Step['kind'];
  readonly newUnit: GrownAsAsked['asked']['newUnit'];
}): ReactNode {
  if (kind === 'new-unit' && typeof newUnit?.profile === 'string')
    return (
      <ButtonLink href={`/units/${unit}/move?family=${newUnit.profile}&bays=${String(newUnit.bays)}`}>
        See how it is moved
      </ButtonLink>
    );
  if (kind === 'extend') return <ButtonLink href={`/units/${unit}/extend`}>Plan the extension</ButtonLink>;
  if (kind === 'convert')
    return (
      <ButtonLink href={`/units/${unit}/level?pool=${encodeURIComponent(pool)}`}>Plan the change of level</ButtonLink>
    );
  return kind === 'swap' ? (
    <ButtonLink href={`/units/${unit}/larger?pool=${encodeURIComponent(pool)}`}>Plan the swap</ButtonLink>
  ) : (
    <ButtonLink href={`/units/${unit}/grow?pool=${encodeURIComponent(pool)}`}>
      Plan it, with the drives in hand
    </ButtonLink>
  );
}

/** What a step gives, at once or when it does at last. */
function gainWords({ month, gain }: Step): string {
  if (gain.bytes > 0) return `+${formatBytes(gain.bytes)}`;
  if (gain.withMonth === null || gain.withMonth === undefined) return 'no space';
  const more = gain.stepsMore ?? 1;
  const last = more === 1 ? 'the next' : `the last of ${String(more)} more`;
  return gain.withMonth === month
    ? `nothing until ${last}, the same day`
    : `nothing until ${last}: ${String(gain.withMonth - month)} months with a drive bought and no space`;
}

/** How long it is thin for it, and what that risks. */
function thinWords({ kind, risk }: Step): string {
  if (kind === 'new-unit') return 'the old unit stays as it is until the copy is proven';
  if (kind === 'extend') return 'off for an hour or two, never thinner';
  if (kind === 'convert') return 'all of it is written anew, for hours to days: on a proven copy';
  if (kind !== 'swap') return 'never thinner';
  if (!risk) return 'thin while each is written';
  return risk.thinHours === 0
    ? `${hoursWords(risk.hours)} through a free bay, never thinner`
    : `thin for ${hoursWords(risk.thinHours)}: ${riskWords(risk.lossBetween)} that a failure loses it`;
}

/** The cheapest way as steps with dates and money, what each gives and risks, and the best of each other kind beside it. */
export function GrowthAnswer({
  unit,
  version,
  pool,
  extensionBays,
  ground,
  of,
  currency,
  today,
  mayRecord,
}: Props): ReactNode {
  const { best, others, late, why, dearestYearCents } = of.grown;
  const recorder = useRecord();
  const [ordering, setOrdering] = useState<Order | null>(null);
  const place = useRef<HTMLElement>(null);
  // It comes below the form it was asked by.
  useEffect(() => {
    place.current?.scrollIntoView({ block: 'nearest' });
  }, [of]);
  const money = (cents: number): string =>
    new Intl.NumberFormat('en', { style: 'currency', currency }).format(cents / 100);
  const dateOf = (month: number): Date => addMonths(new Date(`${today}T12:00:00Z`), month);
  const orderBy = (month: number): Date => subDays(dateOf(month), of.deliveryDays);
  const leftOut = [
    ...offered(extensionBays, pool.mayConvert).flatMap(({ value, words }) =>
      of.asked.allow.includes(value) ? [] : [words],
    ),
    ...(of.asked.newUnit ? [] : ['a new unit']),
  ];
  if (!best)
    return (
      <Notice grave title="No way keeps it below the line">
        {why}
        {dearestYearCents !== undefined &&
          ` The cheapest way without a limit takes ${money(dearestYearCents)} in its dearest year.`}
        {leftOut.length > 0 && ` Not looked at, for it is not ticked: ${leftOut.join('; ')}.`}
      </Notice>
    );
  const months = [...new Set(best.steps.map(({ month }) => month))];
  /** Onto the unit's upkeep, and so into the calendar that is subscribed to. */
  const note = (month: number, orders: readonly Order[]): void => {
    const on = format(max([orderBy(month), new Date(`${today}T12:00:00Z`)]), 'yyyy-MM-dd');
    const has = (kind: Step['kind']): boolean => best.steps.some((step) => step.month === month && step.kind === kind);
    const things = [
      ...(has('new-unit') ? ['the new unit'] : []),
      ...(has('extend') ? ['an extension'] : []),
      ...orders.map(({ count, size }) => `${count} × ${size}`),
    ];
    const title =
      `${things.length === 0 ? 'Prepare the change of level' : `Order ${things.join(', ')}`} for ${pool.name}`.slice(
        0,
        60,
      );
    const task = { id: `order-${on}-${pool.id.slice(0, 8)}`, title, every: 1, unit: 'once' as const, from: on };
    void recorder.record({ unit, version, event: { kind: 'upkeep-planned', tasks: [task] }, sentence: title });
  };
  return (
    <section ref={place} aria-label="The cheapest way" className="grid grid-cols-[minmax(0,1fr)] gap-3" data-growth>
      <h3 className="font-semibold">
        {best.steps.length === 0
          ? 'Nothing has to be bought: it stays below the line.'
          : `The cheapest way: ${money(best.totalCents)} in today’s money, ${String(best.steps.length)} ${best.steps.length === 1 ? 'step' : 'steps'}`}
      </h3>
      {why !== undefined && <p className="text-muted">{why}</p>}
      <Refused fault={recorder.fault} way={recorder.way} />
      {months.map((month) => {
        const steps = best.steps.filter((step) => step.month === month);
        const cents = steps.reduce((sum, step) => sum + step.cents, 0);
        const orders = ordersOf(steps);
        return (
          <div key={month} className="border border-line bg-surface">
            <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-line px-3 py-1.5">
              <span>
                <strong>{month === 0 ? 'Now' : `By ${format(dateOf(month), 'MMMM yyyy')}`}</strong> · {money(cents)}
                {month > 0 && <span className="text-muted"> · order by {format(orderBy(month), 'd MMMM yyyy')}</span>}
              </span>
              {mayRecord && (
                <span className="no-print flex flex-wrap gap-2">
                  {month === months[0] ? (
                    <>
                      {orders.map((order) => (
                        <Button key={order.size} onClick={() => setOrdering(order)}>
                          {`Write down the order: ${order.count} × ${order.size}…`}
                        </Button>
                      ))}
                      <PlanFor unit={unit} pool={pool.id} kind={steps[0]?.kind ?? 'add'} newUnit={of.asked.newUnit} />
                    </>
                  ) : null}
                  {month > 0 && (
                    <Button disabled={recorder.busy} onClick={() => note(month, orders)}>
                      Put the day to order into upkeep
                    </Button>
                  )}
                </span>
              )}
            </div>
            <ol>
              {steps.map((step, i) => (
                <li
                  key={i}
                  className="flex flex-wrap justify-between gap-x-4 border-t border-line px-3 py-1 first:border-0"
                >
                  <span>{stepWords(step)}</span>
                  <span className="text-muted">
                    {step.kind !== 'new-unit' && `${gainWords(step)}; `}
                    {thinWords(step)}
                    {(step.gain.bytes > 0 || step.kind === 'new-unit') &&
                      `; then ${formatBytes(step.shownAfterBytes)} shown`}
                  </span>
                </li>
              ))}
            </ol>
          </div>
        );
      })}
      {best.steps.length > 0 && (others.length > 0 || late) && (
        <ul aria-label="Other ways" className="text-muted">
          {others.map(({ kind, totalCents, steps }) => (
            <li key={kind}>
              {KIND_WORDS[kind]}: {money(totalCents)}, {String(steps.length)} {steps.length === 1 ? 'step' : 'steps'}
              {totalCents > best.totalCents && `, ${money(totalCents - best.totalCents)} more`}
            </li>
          ))}
          {late && (
            <li>
              Nothing until it hurts, at {String(Math.round(late.line * 100))} %: {money(late.totalCents)},{' '}
              {late.steps.length === 0
                ? 'nothing to buy'
                : `the first ${late.steps[0]?.month === 0 ? 'now' : `by ${format(dateOf(late.steps[0]?.month ?? 0), 'MMMM yyyy')}`}`}
              {late.fromMonth !== null &&
                `; ${late.fromMonth === 0 ? 'it is above the line now' : `above the line from ${format(dateOf(late.fromMonth), 'MMMM yyyy')}`}`}
            </li>
          )}
        </ul>
      )}
      {of.asked.newUnit && !others.some(({ kind }) => kind === 'new-unit') && !best.steps.some(isMoving) && (
        <p className="text-muted">A new unit does not keep it below the line within what is allowed.</p>
      )}
      <WhatChanges ground={ground} of={of} money={money} when={(month) => format(dateOf(month), 'MMMM yyyy')} />
      <p className="text-sm text-muted">
        Reckoned on prices that fall as said and a need that grows as said: look again before each order. A spare has to
        be as large as the largest member: it grows with them. Before a drive is touched, the plan for it checks the
        copies; the maker’s manual comes first.
      </p>
      {ordering && (
        <FormDialog title="Drives ordered" onClose={() => setOrdering(null)}>
          <OrderForm onDone={() => setOrdering(null)} begin={ordering} />
        </FormDialog>
      )}
    </section>
  );
}
