'use client';
import type { ReactNode } from 'react';
import { layoutName } from '~/core/layout/layoutName';
import { formatBytes } from '~/core/quantity/formatBytes';
import { worst } from '~/core/risk/riskOfLayout';
import { chanceWords } from '~/web/parts/bench/words';
import { RadioField } from '~/web/parts/form/fields/SelectField';
import { offeredKey, type Offered } from './useLayoutsOffered';

interface Props {
  readonly layouts: readonly Offered[] | null;
  readonly areStandIns: boolean;
  /** What the family makes of so many drives by itself, and what becomes of that. */
  readonly decided: string | undefined;
  /** What is chosen as long as nobody has. */
  readonly first: string;
}

/** What the drives can become: each with what it holds, survives and risks. What is not possible says why not. */
export function LayoutChoice({ layouts, areStandIns, decided, first }: Props): ReactNode {
  if (layouts === null) return <p className="text-muted">Reckoning what they can become…</p>;
  const possible = layouts.filter(({ layout }) => layout.legal);
  const not = layouts.filter(({ layout }) => !layout.legal);
  return (
    <div className="grid gap-2 sm:col-span-2" data-layouts>
      {decided !== undefined && <p data-decided>{decided}</p>}
      {areStandIns && (
        <p className="text-sm text-muted">
          As if a drive of 8 TB stood in every empty bay: write down your own, and the figures follow.
        </p>
      )}
      {possible.length === 0 ? (
        <p className="font-semibold text-thinned">
          Nothing can be made of these: {not[0]?.layout.reasons[0] ?? 'choose other drives.'}
        </p>
      ) : (
        <RadioField
          name="layout"
          label="Layout"
          shown={first}
          options={possible.map((one) => ({
            value: offeredKey(one),
            words: layoutName(shapeOf(one)),
            detail: figuresOf(one),
          }))}
        />
      )}
      {possible.length > 0 && not.length > 0 && (
        <details className="text-sm text-muted">
          <summary className="min-h-9 cursor-pointer py-1.5 max-sm:min-h-11">
            {not.length} cannot be made of these
          </summary>
          <ul>
            {not.map((one) => (
              <li key={offeredKey(one)} className="py-1">
                {layoutName(shapeOf(one))}: {one.layout.reasons[0]}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

function shapeOf({ layout: { scheme, groupWidth } }: Offered): Parameters<typeof layoutName>[0] {
  return { scheme, ...(groupWidth === undefined ? {} : { groupWidth }) };
}

/** "14.5 TB usable, survives any 2; 1 in 1,900 that it loses data in five years." */
function figuresOf({ layout, risk }: Offered): string {
  const survives =
    layout.guaranteedFailures === 0 ? 'no drive may fail' : `any ${String(layout.guaranteedFailures)} may fail`;
  return `${formatBytes(layout.usableBytes)} usable; ${survives}${risk ? `; in five years the pool is lost with at most ${chanceWords(worst(risk.chanceOfLoss))}${worst(risk.rebuildStops) > 0 ? `, a rebuild stops with ${chanceWords(worst(risk.rebuildStops))}` : ''}` : ''}`;
}
