import type { ReactNode } from 'react';
import { layoutName } from '~/core/layout/layoutName';
import type { ThoughtRates } from '~/core/risk/thoughtRate';
import type { Profile } from '~/core/platform/profile';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Button } from '~/web/parts/form/Button';
import { appraiseVariant, type Variant } from './variants';
import { formatRate } from '~/core/quantity/formatRate';
import { riskWords, countWords, rebuildWords } from './words';

interface Props {
  readonly variants: readonly Variant[];
  readonly profiles: readonly Profile[];
  readonly rates: ThoughtRates;
  readonly money: (cents: number) => string;
  readonly onOpen: (variant: Variant) => void;
  readonly onDrop: (index: number) => void;
}

/** What was set aside, side by side, figure by figure. */
export function SideBySide({ variants, profiles, rates, money, onOpen, onDrop }: Props): ReactNode {
  if (variants.length === 0) return null;
  const columns = variants.map((variant) => ({ variant, of: appraiseVariant(variant, profiles, rates) }));
  type Known = NonNullable<(typeof columns)[number]['of']>;
  const rows: readonly (readonly [string, (of: Known) => string])[] = [
    ['layout', ({ appraisal }) => layoutName(appraisal.layout)],
    ['family', ({ profile }) => profile.name],
    ['drives', ({ count, appraisal }) => `${String(count)}, ${formatBytes(appraisal.layout.rawBytes)}`],
    ['usable', ({ appraisal }) => formatBytes(appraisal.layout.usableBytes, 'decimal', 2)],
    [
      'unit’s page',
      ({ appraisal, profile }) =>
        formatBytes(appraisal.layout.shownBytes, profile.unitPage.counts === 'TiB' ? 'binary' : 'decimal', 2),
    ],
    ['survives any', ({ appraisal }) => String(appraisal.layout.guaranteedFailures)],
    ['longest rebuild', ({ appraisal }) => rebuildWords(appraisal.rebuild)],
    ['large files', ({ appraisal }) => `${formatRate(appraisal.clientRead)} for a client`],
    ['small writes', ({ appraisal }) => `${countWords(appraisal.speed.smallWrites)} a second`],
    ['pool lost', ({ appraisal: { risk } }) => (risk ? riskWords(risk.chanceOfLoss) : '—')],
    ['a rebuild stops', ({ appraisal: { risk } }) => (risk ? riskWords(risk.rebuildStops) : '—')],
    ['files lost', ({ appraisal: { risk } }) => (risk ? riskWords(risk.filesLost) : '—')],
    [
      'price',
      ({ appraisal, priceCents }) =>
        appraisal.centsPerUsableTB === null ? '—' : `${money(priceCents)}, ${money(appraisal.centsPerUsableTB)} a TB`,
    ],
  ];
  return (
    <section aria-label="Side by side">
      <h3 className="mb-1.5">Side by side</h3>
      <div
        className="relative overflow-x-auto border border-line bg-surface"
        tabIndex={0}
        role="region"
        aria-label="Variants, figure by figure"
      >
        <table className="w-full text-sm">
          <thead>
            <tr>
              <td />
              {columns.map(({ variant }, i) => (
                <th key={i} scope="col" className="px-2 py-1.5 text-left align-top">
                  {variant.name}
                  <span className="no-print mt-1 flex gap-1 font-normal">
                    <Button onClick={() => onOpen(variant)} aria-label={`Open ${variant.name}`}>
                      Open
                    </Button>
                    <Button onClick={() => onDrop(i)} aria-label={`Drop ${variant.name}`}>
                      Drop
                    </Button>
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([name, show]) => (
              <tr key={name} className="border-t border-line">
                <th scope="row" className="px-2 py-1 text-left font-normal whitespace-nowrap text-muted">
                  {name}
                </th>
                {columns.map(({ of }, i) => (
                  <td key={i} className="px-2 py-1">
                    {of ? show(of) : '—'}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
