'use client';
import { useRef, type KeyboardEvent, type ReactNode } from 'react';
import type { Layout } from '~/core/layout/layout';
import { limitsOf, type Profile } from '~/core/platform/profile';
import { layoutKey, layoutName } from '~/core/layout/layoutName';
import { factsOf } from '~/core/layout/scheme';
import { inTB, inTiB } from '~/core/quantity/formatBytes';

interface Props {
  readonly layouts: readonly Layout[];
  readonly chosen: string;
  readonly onChoose: (key: string) => void;
  readonly profile: Profile;
}

/** Every layout side by side; arrow keys walk the ones that can be made, illegal ones say why not. */
export function LayoutTable({ layouts, chosen, onChoose, profile }: Props): ReactNode {
  const body = useRef<HTMLTableSectionElement>(null);
  const legal = layouts.filter((layout) => layout.legal);
  const isOffered = ({ scheme }: Layout): boolean => limitsOf(profile, scheme) !== undefined;
  const illegal = layouts.filter((layout) => !layout.legal && isOffered(layout));
  const notOffered = layouts.filter((layout) => !isOffered(layout));
  const walk = (event: KeyboardEvent): void => {
    const step = { ArrowDown: 1, ArrowUp: -1, Home: -legal.length, End: legal.length }[event.key];
    if (step === undefined || legal.length === 0) return;
    const at = legal.findIndex((layout) => layoutKey(layout) === chosen);
    const next = legal[Math.max(0, Math.min(legal.length - 1, at + step))] as Layout;
    onChoose(layoutKey(next));
    body.current?.querySelector<HTMLButtonElement>(`button[data-layout="${layoutKey(next)}"]`)?.focus();
    event.preventDefault();
  };
  const { counts, prints } = profile.unitPage;
  const shownIn = counts === 'TiB' ? inTiB : inTB;
  return (
    <div className="relative overflow-x-auto border border-line bg-surface">
      <table className="w-full">
        <caption className="sr-only">Every layout these drives could become</caption>
        <thead className="align-bottom text-sm text-muted">
          <tr>
            <Head left>Layout</Head>
            <Head>
              usable
              <br />
              TB
            </Head>
            <Head>
              page shows
              <br />
              {counts}
              {counts !== prints && `, as “${prints}”`}
            </Head>
            <Head>
              failures
              <br />
              survived
            </Head>
            <Head>
              of the next
              <br />
              failures
            </Head>
            <Head>
              unused
              <br />
              TB
            </Head>
          </tr>
        </thead>
        <tbody ref={body} onKeyDown={walk}>
          {legal.map((layout) => {
            const key = layoutKey(layout);
            const isChosen = key === chosen;
            return (
              <tr
                key={key}
                onClick={() => onChoose(key)}
                className={`cursor-pointer border-t border-line ${isChosen ? 'bg-chosen shadow-[inset_3px_0_0_var(--action)]' : 'hover:bg-chosen/60'}`}
              >
                <th scope="row" className="py-0 pl-3 text-left font-normal whitespace-nowrap">
                  <button type="button" data-layout={key} aria-pressed={isChosen} tabIndex={isChosen ? 0 : -1} className="min-h-8 w-full text-left">
                    {layoutName(layout)}
                  </button>
                </th>
                <td className="figures px-2">{inTB(layout.usableBytes)}</td>
                <td className="figures px-2">{shownIn(layout.shownBytes)}</td>
                <td className="figures px-2">{layout.guaranteedFailures}</td>
                <td className="px-2 text-right text-sm whitespace-nowrap">{beyond(layout)}</td>
                <td className="figures px-2">{inTB(layout.unusedBytes)}</td>
              </tr>
            );
          })}
          {illegal.map((layout) => (
            <tr key={layoutKey(layout)} className="border-t border-line text-muted">
              <th scope="row" className="px-3 py-1 text-left font-normal whitespace-nowrap">
                {layoutName(layout)}
              </th>
              <td colSpan={5} className="px-2 py-1 text-sm">
                {layout.reasons[0]}
              </td>
            </tr>
          ))}
          {notOffered.length > 0 && (
            <tr className="border-t border-line text-sm text-muted">
              <td colSpan={6} className="px-3 py-1">
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
    <th scope="col" className={`py-1.5 font-normal ${left ? 'px-3 text-left' : 'px-2 text-right whitespace-nowrap'}`}>
      {children}
    </th>
  );
}

/** What becomes of one failure more than it survives for certain. */
function beyond({ survival, guaranteedFailures, scheme }: Layout): string {
  const next = survival[guaranteedFailures + 1];
  if (!next) return '—';
  if (factsOf(scheme).loses === 'drives') return 'loses their files';
  const sets = next.failed === 1 ? 'drives' : next.failed === 2 ? 'pairs' : next.failed === 3 ? 'triples' : `sets of ${String(next.failed)}`;
  return `${next.survived === '0' ? 'none' : next.survived} of ${next.of} ${sets}`;
}
