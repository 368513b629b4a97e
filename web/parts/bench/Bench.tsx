'use client';
import { parseAsInteger, parseAsString, useQueryStates } from 'nuqs';
import { useDeferredValue, useMemo, useState, type ReactNode } from 'react';
import type { Layout } from '~/core/layout/layout';
import { layoutKey, layoutName } from '~/core/layout/layoutName';
import { MOST_DRIVES } from '~/core/layout/limits';
import { fewestBays } from '~/core/unit/enclosures';
import { compareLayouts } from '~/core/layout/planLayout';
import { factsOf, SCHEMES } from '~/core/layout/scheme';
import type { Profile } from '~/core/platform/profile';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { mapOfLayout } from '~/web/parts/map/ofLayout';
import { PoolMap } from '~/web/parts/map/PoolMap';
import { BenchBays } from './BenchBays';
import { BenchSettings } from './BenchSettings';
import { loadDraft, readSheet, saveDraft } from './draft';
import { LayoutTable } from './LayoutTable';
import { PutOnShelf } from './PutOnShelf';
import { SheetEditor } from './SheetEditor';
import { WhereItWent } from './WhereItWent';

export interface BenchProps {
  readonly profiles: readonly Profile[];
  readonly sample: string;
  readonly currency: string;
  readonly places: readonly string[];
  readonly mayStore: boolean;
}

/** What is shown before anybody has chosen. */
function mostSpaceThatSurvivesOne(layouts: readonly Layout[]): Layout | undefined {
  return layouts
    .filter(({ guaranteedFailures }) => guaranteedFailures > 0)
    .reduce<Layout | undefined>((best, layout) => (best === undefined || layout.usableBytes > best.usableBytes ? layout : best), undefined);
}

/** The layout bench: drives in hand on the left, everything they could become, and the map of the chosen one. */
export function Bench({ profiles, sample, currency, places, mayStore }: BenchProps): ReactNode {
  const [sheet, setSheet] = useState(loadDraft);
  const [isEditing, setIsEditing] = useState(sheet === '');
  const [isPutting, setIsPutting] = useState(false);
  const [{ profile: profileId, spares, bays: askedBays, layout: chosen }, setQuery] = useQueryStates({
    profile: parseAsString.withDefault('plain'),
    spares: parseAsInteger.withDefault(0),
    bays: parseAsInteger,
    layout: parseAsString,
  });
  const profile = profiles.find(({ id }) => id === profileId) ?? (profiles[0] as Profile);
  const { drives, problems } = useMemo(() => readSheet(sheet), [sheet]);

  const fewest = fewestBays(drives.map(({ bay }) => bay));
  const choices = profile.bays.choices.filter((count) => count >= fewest);
  const bays = askedBays !== null && choices.includes(askedBays) ? askedBays : (choices[0] ?? fewest);
  const asked = useDeferredValue({ profile, drives, spares });
  const layouts = useMemo(() => (asked.drives.length > MOST_DRIVES ? [] : compareLayouts(asked.profile, SCHEMES, asked.drives, asked.spares)), [asked]);
  const inOrder = useMemo(() => [...layouts.filter(({ legal }) => legal), ...layouts.filter(({ legal }) => !legal)], [layouts]);
  const legal = inOrder.filter((layout) => layout.legal);
  const current = legal.find((layout) => layoutKey(layout) === chosen) ?? mostSpaceThatSurvivesOne(legal) ?? legal[0];

  const use = (text: string): void => {
    saveDraft(text);
    setSheet(text);
    setIsEditing(false);
  };
  if (isEditing) return <SheetEditor initial={sheet} sample={sample} onUse={use} {...(sheet === '' ? {} : { onCancel: () => setIsEditing(false) })} />;

  const total = drives.reduce((sum, { bytes }) => sum + bytes, 0);
  const price = drives.reduce((sum, { priceCents = 0 }) => sum + priceCents, 0);
  const money = price === 0 ? '' : ` · ${new Intl.NumberFormat('en', { style: 'currency', currency }).format(price / 100)} in drives`;
  return (
    <div className="flex min-h-full max-lg:flex-col lg:h-full">
      <div className="grid min-w-0 flex-1 grid-cols-[minmax(0,1fr)] content-start gap-3 overflow-y-auto p-5">
        <div className="flex items-start justify-between gap-4">
          <div>
            <h1 className="text-xl">What could {drives.length === 1 ? 'this drive' : `these ${String(drives.length)} drives`} become?</h1>
            <p className="text-muted">
              {formatBytes(total)} bought{money}
              {bays > drives.length && ` · ${String(bays - drives.length)} of ${String(bays)} bays ${bays - drives.length === 1 ? 'stays' : 'stay'} free`}
            </p>
          </div>
          <Button onClick={() => setIsEditing(true)}>Change the drives</Button>
        </div>
        {problems.length > 0 && (
          <Notice>
            {problems.length === 1 ? 'One row' : `${String(problems.length)} cells`} of the sheet could not be read and {problems.length === 1 ? 'is' : 'are'}{' '}
            left out: {problems[0]?.row !== undefined && `row ${String(problems[0].row)}`} {problems[0]?.reason}
          </Notice>
        )}
        <BenchSettings profiles={profiles} profile={profile} choices={choices} bays={bays} spares={spares} onChange={(change) => void setQuery(change)} />
        {drives.length > MOST_DRIVES ? (
          <Notice grave title={`${drives.length.toLocaleString('en')} drives are on the sheet`}>
            A layout is planned for at most {MOST_DRIVES.toLocaleString('en')} at a time. They are all still there: change the sheet to leave some out.
          </Notice>
        ) : choices.length === 0 ? (
          <Notice grave>
            {profile.name} is not made with {fewest} bays or more. Choose another family, or leave drives out.
          </Notice>
        ) : null}
        <BenchBays drives={drives} bays={bays} spareBays={current?.spareBays ?? []} />
        <LayoutTable layouts={inOrder} chosen={current ? layoutKey(current) : ''} onChoose={(key) => void setQuery({ layout: key })} profile={profile} />
        {current && <WhereItWent layout={current} profile={profile} />}
      </div>
      <aside aria-label="Chosen layout" className="shrink-0 border-line bg-surface p-5 max-lg:border-t lg:w-[424px] lg:overflow-y-auto lg:border-l">
        {current ? (
          <>
            <div className="mb-1 flex items-start justify-between gap-3">
              <h2 className="text-lg">{layoutName(current)}</h2>
              {mayStore && choices.length > 0 && (
                <Button look="main" className="shrink-0" onClick={() => setIsPutting(true)}>
                  Put it on the shelf…
                </Button>
              )}
            </div>
            <p className="mb-3 text-muted">{factsOf(current.scheme).sentence} Hatching is protection, dots are unused.</p>
            <PoolMap input={mapOfLayout(current, asked.drives)} height={270} label={`Pool map of ${layoutName(current)}`} />
            {current.reasons.map((reason) => (
              <div key={reason} className="mt-3">
                <Notice>{reason}</Notice>
              </div>
            ))}
            {mayStore && (
              <PutOnShelf
                open={isPutting}
                onOpenChange={setIsPutting}
                layout={current}
                drives={drives}
                profile={profile}
                bays={bays}
                spares={spares}
                places={places}
                onDone={() => saveDraft('')}
              />
            )}
          </>
        ) : (
          <>
            <h2 className="text-lg">Nothing can be made of these</h2>
            <p className="mt-1 text-muted">Each row on the left says what is missing. Add a drive, choose another family, or keep fewer spares.</p>
          </>
        )}
      </aside>
    </div>
  );
}
