'use client';
import dynamic from 'next/dynamic';
import { addMonths, format } from 'date-fns';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Button, ButtonLink } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';
import { Notice } from '~/web/parts/form/Notice';
import type { Grown } from './GrowthForm';

const OrderForm = dynamic(() => import('~/web/parts/drives/OrderForms').then((part) => part.OrderForm), { ssr: false });

interface Props {
  readonly unit: string;
  readonly pool: string;
  readonly grown: Grown;
  /** Usable bytes as the unit's page shows them. */
  readonly shown: (usableBytes: number) => number;
  readonly now: number;
  readonly currency: string;
  readonly today: string;
  readonly mayRecord: boolean;
}

type Step = NonNullable<Grown['best']>['steps'][number];

const KIND_WORDS: Readonly<Record<Grown['others'][number]['kind'], string>> = {
  'swap-only': 'Only swap members',
  'add-only': 'Only add drives',
  'group-only': 'Only add whole groups',
  'buy-all-now': 'Buy everything now',
};

function stepWords({ kind, bays, bytes }: Step): string {
  const size = formatBytes(bytes);
  if (kind === 'swap') return `Swap the drive in bay ${bays[0] ?? ''} for ${size}`;
  return bays.length === 1
    ? `Add a ${size} drive in bay ${bays[0] ?? ''}`
    : `Add ${String(bays.length)} drives of ${size} in bays ${bays.join(', ')}`;
}

interface Order {
  readonly count: string;
  readonly size: string;
  readonly price: string;
}

/** The drives of these steps, a size each. */
function ordersOf(steps: readonly Step[]): Order[] {
  return [...new Set(steps.map(({ bytes }) => bytes))].map((bytes) => ({
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
}: {
  readonly unit: string;
  readonly pool: string;
  readonly kind: Step['kind'];
}): ReactNode {
  return kind === 'swap' ? (
    <ButtonLink href={`/units/${unit}/larger`}>Plan the swap</ButtonLink>
  ) : (
    <ButtonLink href={`/units/${unit}/grow?pool=${encodeURIComponent(pool)}`}>
      Plan it, with the drives in hand
    </ButtonLink>
  );
}

/** The cheapest way as steps with dates and money, what each gives, and the best of each other kind beside it. */
export function GrowthAnswer({ unit, pool, grown, shown, now, currency, today, mayRecord }: Props): ReactNode {
  const [ordering, setOrdering] = useState<Order | null>(null);
  const place = useRef<HTMLElement>(null);
  // It comes below the form it was asked by.
  useEffect(() => place.current?.scrollIntoView({ block: 'nearest' }), [grown]);
  const { best, others, why } = grown;
  const money = (cents: number): string =>
    new Intl.NumberFormat('en', { style: 'currency', currency }).format(cents / 100);
  const when = (month: number): string => format(addMonths(new Date(`${today}T12:00:00Z`), month), 'MMMM yyyy');
  if (!best)
    return (
      <Notice grave title="No way keeps it below the line">
        {why}
      </Notice>
    );
  const months = [...new Set(best.steps.map(({ month }) => month))];
  const before = (step: Step): number => {
    const i = best.steps.indexOf(step);
    return i === 0 ? now : shown((best.steps[i - 1] as Step).usableAfterBytes);
  };
  return (
    <section ref={place} aria-label="The cheapest way" className="grid grid-cols-[minmax(0,1fr)] gap-3" data-growth>
      <h3 className="font-semibold">
        {best.steps.length === 0
          ? 'Nothing has to be bought: it stays below the line.'
          : `The cheapest way: ${money(best.totalCents)} in today’s money, ${String(best.steps.length)} ${best.steps.length === 1 ? 'step' : 'steps'}`}
      </h3>
      {why !== undefined && <p className="text-muted">{why}</p>}
      {months.map((month) => {
        const steps = best.steps.filter((step) => step.month === month);
        const cents = steps.reduce((sum, step) => sum + step.cents, 0);
        return (
          <div key={month} className="border border-line bg-surface">
            <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-line px-3 py-1.5">
              <span className="font-semibold">
                {month === 0 ? 'Now' : `By ${when(month)}`} · {money(cents)}
              </span>
              {mayRecord && (
                <span className="no-print flex flex-wrap gap-2">
                  {ordersOf(steps).map((order) => (
                    <Button key={order.size} onClick={() => setOrdering(order)}>
                      {`Write down the order: ${order.count} × ${order.size}…`}
                    </Button>
                  ))}
                  {month === months[0] && <PlanFor unit={unit} pool={pool} kind={steps[0]?.kind ?? 'add'} />}
                </span>
              )}
            </div>
            <ol>
              {steps.map((step, i) => {
                const gain = shown(step.usableAfterBytes) - before(step);
                return (
                  <li
                    key={i}
                    className="flex flex-wrap justify-between gap-x-4 border-t border-line px-3 py-1 first:border-0"
                  >
                    <span>{stepWords(step)}</span>
                    <span className="text-muted">
                      {gain > 0
                        ? `+${formatBytes(gain)}, then ${formatBytes(shown(step.usableAfterBytes))} shown`
                        : 'nothing yet: it comes with a later one'}
                    </span>
                  </li>
                );
              })}
            </ol>
          </div>
        );
      })}
      {others.length > 0 && (
        <ul aria-label="Other ways" className="text-muted">
          {others.map(({ kind, totalCents, steps }) => (
            <li key={kind}>
              {KIND_WORDS[kind]}: {money(totalCents)}, {String(steps.length)} {steps.length === 1 ? 'step' : 'steps'}
              {totalCents > best.totalCents && `, ${money(totalCents - best.totalCents)} more`}
            </li>
          ))}
        </ul>
      )}
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
