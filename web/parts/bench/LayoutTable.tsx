'use client';
import { useRef, type KeyboardEvent, type ReactNode } from 'react';
import type { Appraisal } from '~/core/appraisal/appraise';
import type { Layout } from '~/core/layout/layout';
import { limitsOf, type Profile } from '~/core/platform/profile';
import { worst } from '~/core/risk/riskOfLayout';
import type { Simulated } from '~/core/risk/simulate/simulate';
import { layoutKey, layoutName } from '~/core/layout/layoutName';
import { factsOf } from '~/core/layout/scheme';
import { inTB, inTiB } from '~/core/quantity/formatBytes';
import { simulatedWords } from '~/web/parts/outlook/simulatedWords';
import type { Foreseen } from './useForeseen';
import { shortChance, countWords, rebuildWords } from './words';

interface Props {
  readonly appraisals: readonly Appraisal[];
  readonly chosen: string;
  /** The layout that fits best what matters, when that was said. */
  readonly best: string | null;
  readonly onChoose: (key: string) => void;
  readonly profile: Profile;
  readonly years: number;
  /** Its chances simulated, by layout; without them they are the reckoned ones. */
  readonly foreseen: Foreseen | null;
}

/** Every layout side by side; arrow keys walk the ones that can be made, illegal ones say why not. */
export function LayoutTable({ appraisals, chosen, best, onChoose, profile, years, foreseen }: Props): ReactNode {
  const body = useRef<HTMLTableSectionElement>(null);
  const legal = appraisals.filter(({ layout }) => layout.legal);
  const others = appraisals.map(({ layout }) => layout).filter((layout) => !layout.legal);
  const isOffered = ({ scheme }: Layout): boolean => limitsOf(profile, scheme) !== undefined;
  const notOffered = others.filter((layout) => !isOffered(layout));
  const walk = (event: KeyboardEvent): void => {
    const step = { ArrowDown: 1, ArrowUp: -1, Home: -legal.length, End: legal.length }[event.key];
    if (step === undefined || legal.length === 0) return;
    const at = legal.findIndex(({ layout }) => layoutKey(layout) === chosen);
    const next = layoutKey((legal[Math.max(0, Math.min(legal.length - 1, at + step))] as Appraisal).layout);
    onChoose(next);
    body.current?.querySelector<HTMLButtonElement>(`button[data-layout="${next}"]`)?.focus();
    event.preventDefault();
  };
  const { counts, prints } = profile.unitPage;
  const shownIn = counts === 'TiB' ? inTiB : inTB;
  const how = foreseen ? ', simulated' : '';
  const isPriced = legal.some(({ centsPerUsableTB }) => centsPerUsableTB !== null);
  return (
    <div className="relative overflow-x-auto border border-line bg-surface">
      <table className="w-full">
        <caption className="sr-only">Every layout these drives could become</caption>
        <thead className="align-bottom text-sm text-muted">
          <tr>
            <Head left>Layout</Head>
            <Head>usable TB</Head>
            <Head>{counts === prints ? `page shows ${counts}` : `page shows ${counts}, as “${prints}”`}</Head>
            <Head>it survives</Head>
            <Head>of the next failures</Head>
            <Head>longest rebuild</Head>
            <Head>small writes /s</Head>
            <Head>
              pool lost in {years}&nbsp;yr, at worst{how}
            </Head>
            <Head>
              {profile.rebuild.unreadableSector === 'aborts' ? 'a rebuild stops' : 'files lost'}, at worst{how}
            </Head>
            {isPriced && <Head>price of a TB</Head>}
          </tr>
        </thead>
        <tbody ref={body} onKeyDown={walk}>
          {legal.map((appraisal) => {
            const { layout, rebuild, speed, centsPerUsableTB } = appraisal;
            const key = layoutKey(layout);
            const isChosen = key === chosen;
            return (
              <tr
                key={key}
                onClick={() => onChoose(key)}
                className={`cursor-pointer border-t border-line ${isChosen ? 'bg-chosen shadow-[inset_3px_0_0_var(--action)]' : 'hover:bg-chosen/60'}`}
              >
                <th scope="row" className="min-w-[140px] py-0 pl-3 text-left leading-tight font-normal">
                  <button
                    type="button"
                    data-layout={key}
                    aria-pressed={isChosen}
                    tabIndex={isChosen ? 0 : -1}
                    className="min-h-[30px] w-full text-left max-sm:min-h-11"
                  >
                    {layoutName(layout)}
                    {key === best && <strong className="text-action"> · fits best</strong>}
                  </button>
                </th>
                <td className="figures px-1">{inTB(layout.usableBytes)}</td>
                <td className="figures px-1">{shownIn(layout.shownBytes)}</td>
                <td className="figures px-1">{layout.guaranteedFailures}</td>
                <td className="px-1 text-right text-sm whitespace-nowrap">{beyond(layout)}</td>
                <td className="px-1 text-right text-sm whitespace-nowrap">{rebuildWords(rebuild)}</td>
                <td className="px-1 text-right text-sm whitespace-nowrap">{countWords(speed.smallWrites)}</td>
                {chancesOf(appraisal, foreseen).map((words, column) => (
                  <td key={column} className="px-1 text-right text-sm whitespace-nowrap">
                    {words}
                  </td>
                ))}
                {isPriced && (
                  <td className="px-2 text-right text-sm whitespace-nowrap">
                    {centsPerUsableTB === null ? '—' : (centsPerUsableTB / 100).toFixed(2)}
                  </td>
                )}
              </tr>
            );
          })}
          {others.filter(isOffered).map((layout) => (
            <tr key={layoutKey(layout)} className="border-t border-line text-muted">
              <th scope="row" className="px-3 py-1 text-left leading-tight font-normal">
                {layoutName(layout)}
              </th>
              <td colSpan={9} className="px-1.5 py-1 text-sm">
                {layout.reasons[0]}
              </td>
            </tr>
          ))}
          {notOffered.length > 0 && (
            <tr className="border-t border-line text-sm text-muted">
              <td colSpan={10} className="px-3 py-1">
                This family does not offer: {notOffered.map(layoutName).join(', ')}.
              </td>
            </tr>
          )}
        </tbody>
      </table>
    </div>
  );
}

function Head({ left = false, children }: { readonly left?: boolean; readonly children: ReactNode }): ReactNode {
  return (
    <th
      scope="col"
      className={`py-1 leading-tight font-normal ${left ? 'px-3 text-left' : 'max-w-[74px] px-1 text-right'}`}
    >
      {children}
    </th>
  );
}

/** The pool is lost; a rebuild stops or a file is lost. At the worse end, reckoned or simulated: never the one under the other's heading. */
function chancesOf({ layout, rebuild, risk }: Appraisal, foreseen: Foreseen | null): readonly [string, string] {
  if (foreseen === null)
    return [
      risk ? shortChance(worst(risk.chanceOfLoss)) : '—',
      risk && rebuild ? shortChance(worst(risk.rebuildStops) + worst(risk.filesLost)) : '—',
    ];
  const lived = foreseen.get(layoutKey(layout));
  const words = (one: Simulated): string => simulatedWords(one, one, shortChance);
  return [lived ? words(lived.lost) : '—', lived && rebuild ? words(lived.met) : '—'];
}

/** What becomes of one failure more than it survives for certain. */
function beyond({ survival, guaranteedFailures, scheme }: Layout): string {
  const next = survival[guaranteedFailures + 1];
  if (!next) return '—';
  if (factsOf(scheme).loses === 'drives') return 'their files go';
  const sets = next.failed === 1 ? '' : next.failed === 2 ? ' pairs' : next.failed === 3 ? ' triples' : ' sets';
  return `${next.survived} of ${next.of}${sets}`;
}
