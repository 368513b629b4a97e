'use client';
import dynamic from 'next/dynamic';
import { Tabs } from 'radix-ui';
import { useMemo, useState, type ReactNode } from 'react';
import type { ListedDrive } from '~/core/drive/driveList';
import { nextSteps } from '~/core/growth/nextSteps';
import { conversionsOf } from '~/core/pool/converted';
import { drivesByName, membersOnly, poolOfLayout } from '~/core/pool/ofLayout';
import { layoutKey, layoutName } from '~/core/layout/layoutName';
import { MOST_DRIVES } from '~/core/layout/limits';
import type { ThoughtRates } from '~/core/risk/thoughtRate';
import type { Profile } from '~/core/platform/profile';
import { formatBytes } from '~/core/quantity/formatBytes';
import { sharedCauses } from '~/core/survival/sharedCauses';
import { Button } from '~/web/parts/form/Button';
import { FormDialog } from '~/web/parts/form/FormDialog';
import { Moment } from '~/web/parts/unit/Moment';
import { Notice } from '~/web/parts/form/Notice';
import type { KeptComparison } from '~/service/bench/comparisons';
import { AheadTab } from './AheadTab';
import { AsBuilt, type BuiltPool } from './AsBuilt';
import { BenchBays } from './BenchBays';
import { BenchMenu } from './BenchMenu';
import { BenchSettings } from './BenchSettings';
import { madeOtherwiseWords } from '~/core/platform/firstPowerOn';
import { notOffered } from '~/core/platform/notOffered';
import { draftAt, loadDraft, readSheet, saveDraft } from './draft';
import { loadDrawer, saveDrawer } from './Drawer';
import { FiguresTab } from './FiguresTab';
import { ForeseeAll } from './ForeseeAll';
import { KeptList } from './KeptList';
import { LaterTab } from './LaterTab';
import { LayoutTable } from './LayoutTable';
import { MapTab } from './MapTab';
import { MattersTab } from './MattersTab';
import { SheetEditor } from './SheetEditor';
import { SideBySide } from './SideBySide';
import { useBench } from './useBench';
import { useForeseen } from './useForeseen';
import { loadVariants, MOST_VARIANTS, saveVariants, type Variant } from './variants';
import { VolumeCheck } from './VolumeCheck';
import { WhereItWent } from './WhereItWent';

const PutOnShelf = dynamic(() => import('./PutOnShelf').then((part) => part.PutOnShelf), { ssr: false });

export interface BenchProps {
  readonly profiles: readonly Profile[];
  readonly sample: string;
  readonly currency: string;
  readonly places: readonly string[];
  readonly mayStore: boolean;
  /** A sheet to begin with instead of the draft: a comparison that was kept, or a unit's drives. */
  readonly begin: { readonly name: string; readonly sheet: string; readonly built: BuiltPool | null } | null;
  readonly kept: readonly KeptComparison[];
  readonly rates: ThoughtRates;
}

const TABS = { map: 'Map', matters: 'What matters', figures: 'Figures', later: 'Later', ahead: 'Ahead' } as const;

/** The layout bench: drives in hand on the left, everything they could become, and the chosen one on the right. */
export function Bench({ profiles, sample, currency, places, mayStore, begin, kept, rates }: BenchProps): ReactNode {
  const [sheet, setSheet] = useState(() => begin?.sheet ?? loadDraft());
  const [isEditing, setIsEditing] = useState(sheet === '');
  /** When what stands there was left here, where nobody has brought anything else since. */
  const [draftOf, setDraftOf] = useState(() => (begin ? null : draftAt()));
  const [isAnew, setIsAnew] = useState(false);
  const [isPutting, setIsPutting] = useState(false);
  const [drawer, setDrawer] = useState(loadDrawer);
  const [variants, setVariants] = useState(loadVariants);
  const { drives, problems } = useMemo(() => readSheet(sheet), [sheet]);
  const bench = useBench(profiles, drives, rates);
  const { profile, bays, choices, enclosures, spares, appraisals, ranking, current, compared, isAsked } = bench;
  const legal = appraisals.map(({ layout }) => layout).filter((layout) => layout.legal);
  const foreseen = useForeseen(compared, enclosures, legal);

  const takeSheet = (text: string): void => {
    saveDraft(text);
    setSheet(text);
    setIsEditing(false);
    setIsAnew(false);
    setDraftOf(null);
    forgetBeginning();
  };
  const changeDrives = (text: string, left: readonly ListedDrive[]): void => {
    takeSheet(text);
    saveDrawer(left);
    setDrawer([...left]);
  };
  const setAside = (list: readonly Variant[]): void => {
    saveVariants(list);
    setVariants([...list]);
  };
  const bring = ({ sheet: text, address }: Pick<Variant, 'sheet' | 'address'>): void => {
    takeSheet(text);
    // Not a navigation: that would begin the bench anew.
    window.history.replaceState(null, '', `/bench?${address}`);
  };
  if (isEditing || isAnew) {
    return (
      <SheetEditor
        initial={isAnew ? '' : sheet}
        sample={sample}
        onUse={takeSheet}
        {...(sheet === '' ? {} : { onCancel: () => (setIsEditing(false), setIsAnew(false)) })}
      >
        <KeptList kept={kept} mayStore={mayStore} />
      </SheetEditor>
    );
  }

  const otherwise =
    current &&
    madeOtherwiseWords(profile, drives.length, {
      scheme: current.layout.scheme,
      groupWidth: current.layout.groupWidth,
      spares: current.layout.spareBays.length,
    });
  const unfitting = notOffered(
    profile,
    enclosures.map((box) => box.bays.length),
    drives.map(({ bytes }) => bytes),
  );
  const money = (cents: number): string =>
    new Intl.NumberFormat('en', { style: 'currency', currency }).format(cents / 100);
  const price = drives.reduce((sum, { priceCents = 0 }) => sum + priceCents, 0);
  const chosen = current ? layoutKey(current.layout) : '';
  const choose = (layout: string): void => bench.change({ layout });
  return (
    <div className="one-page flex min-h-full max-lg:flex-col lg:h-full">
      <div className="relative grid min-w-0 flex-1 auto-rows-max grid-cols-[minmax(0,1fr)] content-start gap-3 overflow-y-auto p-4">
        <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-2">
          <div>
            <h1 className="text-xl">
              What could {drives.length === 1 ? 'this drive' : `these ${String(drives.length)} drives`} become?
            </h1>
            <p className="text-muted">
              {formatBytes(drives.reduce((sum, { bytes }) => sum + bytes, 0))} bought
              {price > 0 && ` · ${money(price)} in drives`}
              {bays > drives.length &&
                ` · ${String(bays - drives.length)} of ${String(bays)} bays ${bays - drives.length === 1 ? 'stays' : 'stay'} free`}
            </p>
            {draftOf !== null && (
              <p className="no-print text-sm" data-draft-of={draftOf}>
                Your draft of <Moment at={draftOf} />.{' '}
                <button type="button" className="text-action underline max-sm:min-h-11" onClick={() => setIsAnew(true)}>
                  Begin anew
                </button>
              </p>
            )}
          </div>
          <div className="no-print relative flex flex-wrap gap-2">
            <BenchMenu sheet={sheet} appraisals={bench.isNow ? appraisals : null} mayStore={mayStore} onBring={bring} />
            <Button onClick={() => setIsEditing(true)}>Change the drives</Button>
          </div>
        </div>
        {problems.length > 0 && (
          <Notice>
            {problems.length === 1 ? 'One row' : `${String(problems.length)} cells`} of the sheet could not be read and{' '}
            {problems.length === 1 ? 'is' : 'are'} left out:{' '}
            {problems[0]?.row !== undefined && `row ${String(problems[0].row)}`} {problems[0]?.reason}
          </Notice>
        )}
        <BenchSettings
          profiles={profiles}
          profile={profile}
          choices={choices}
          bays={bays}
          spares={spares}
          each={bench.each}
          mayStore={mayStore}
          onChange={bench.change}
          onDescribed={bench.takeNew}
        />
        {otherwise !== undefined && (
          <div data-made-otherwise>
            <Notice>{otherwise}</Notice>
          </div>
        )}
        {unfitting.length > 0 && (
          <div data-not-offered>
            <Notice>{unfitting.join(' ')}</Notice>
          </div>
        )}
        {drives.length > MOST_DRIVES ? (
          <Notice grave title={`${drives.length.toLocaleString('en')} drives are on the sheet`}>
            A layout is planned for at most {MOST_DRIVES.toLocaleString('en')} at a time. They are all still there:
            change the sheet to leave some out.
          </Notice>
        ) : choices.length === 0 ? (
          <Notice grave>
            {profile.name} is not made with {bays} bays or more. Choose another family, or leave drives out.
          </Notice>
        ) : null}
        <BenchBays
          drives={drives}
          enclosures={enclosures}
          spareBays={current?.layout.spareBays ?? []}
          drawer={drawer}
          onChange={changeDrives}
        />
        <LayoutTable
          appraisals={appraisals}
          chosen={chosen}
          best={isAsked && ranking[0] ? layoutKey(ranking[0].appraisal.layout) : null}
          onChoose={choose}
          profile={compared.profile}
          years={bench.assumptions.years}
          foreseen={foreseen.state.kind === 'done' ? foreseen.state.seen : null}
        />
        {current && <WhereItWent layout={current.layout} profile={compared.profile} />}
        {legal.length > 0 && <ForeseeAll foreseen={foreseen} />}
        <SideBySide
          variants={variants}
          profiles={profiles}
          rates={rates}
          money={money}
          onOpen={bring}
          onDrop={(index) => setAside(variants.filter((_, i) => i !== index))}
        />
      </div>
      <aside
        aria-label="Chosen layout"
        className="relative shrink-0 border-line bg-surface p-4 max-lg:border-t lg:w-[392px] lg:overflow-y-auto lg:border-l"
      >
        {current ? (
          <>
            <div className="mb-2 flex items-start justify-between gap-3">
              <h2 className="text-lg">{layoutName(current.layout)}</h2>
              {mayStore && choices.length > 0 && (
                <Button look="main" className="no-print shrink-0" onClick={() => setIsPutting(true)}>
                  Put it on the shelf…
                </Button>
              )}
            </div>
            <Button
              className="no-print mb-2 w-full"
              disabled={variants.length >= MOST_VARIANTS}
              title={variants.length >= MOST_VARIANTS ? 'Four stand side by side already: drop one first.' : undefined}
              onClick={() =>
                setAside([
                  ...variants,
                  {
                    name: `${String(variants.length + 1)}: ${formatBytes(current.layout.usableBytes)} of ${String(drives.length)} drives`,
                    sheet,
                    address: addressOf(chosen),
                  },
                ])
              }
            >
              Set aside to compare with a change
            </Button>
            <Tabs.Root defaultValue={begin?.built ? 'built' : 'map'}>
              <Tabs.List aria-label="About the chosen layout" className="mb-3 flex border-b border-line">
                {Object.entries(begin?.built ? { built: 'As built', ...TABS } : TABS).map(([value, name]) => (
                  <Tabs.Trigger
                    key={value}
                    value={value}
                    className="-mb-px min-h-9 border-b-[3px] border-transparent px-2.5 text-muted data-[state=active]:border-action data-[state=active]:font-semibold data-[state=active]:text-ink max-sm:min-h-11"
                  >
                    {name}
                  </Tabs.Trigger>
                ))}
              </Tabs.List>
              {begin?.built && (
                <Tabs.Content value="built">
                  <AsBuilt built={begin.built} current={current} drives={compared.drives} enclosures={enclosures} />
                </Tabs.Content>
              )}
              <Tabs.Content value="map">
                <MapTab key={chosen} layout={current.layout} drives={compared.drives} enclosures={enclosures} />
              </Tabs.Content>
              <Tabs.Content value="matters">
                <MattersTab
                  needs={bench.needs}
                  onChange={bench.changeNeeds}
                  ranking={ranking}
                  chosen={chosen}
                  onChoose={choose}
                />
              </Tabs.Content>
              <Tabs.Content value="figures">
                <FiguresTab
                  of={current}
                  inFull={bench.inFull}
                  rate={bench.rate}
                  assumptions={bench.assumptions}
                  money={money}
                  onPort={(port) => bench.change({ port })}
                />
              </Tabs.Content>
              <Tabs.Content value="later">
                <LaterTab
                  becomes={conversionsOf(
                    compared.profile,
                    poolOfLayout(current.layout),
                    drivesByName(membersOnly(current.layout, compared.drives)),
                    bays - compared.drives.length,
                  )}
                  steps={nextSteps(compared.profile, current.layout, compared.drives, bays)}
                  causes={sharedCauses(current.layout.bands, enclosures)}
                  profile={compared.profile}
                />
                <VolumeCheck layout={current.layout} profile={compared.profile} />
              </Tabs.Content>
              <Tabs.Content value="ahead">
                <AheadTab
                  key={chosen}
                  layout={current.layout}
                  drives={compared.drives}
                  profile={compared.profile}
                  enclosures={enclosures}
                  rate={bench.rate}
                />
              </Tabs.Content>
            </Tabs.Root>
            {mayStore && isPutting && (
              <FormDialog title="Put it on the shelf" onClose={() => setIsPutting(false)}>
                <PutOnShelf
                  layout={current.layout}
                  drives={compared.drives}
                  profile={compared.profile}
                  enclosures={enclosures}
                  areRegistered={bench.areRegistered}
                  spares={spares}
                  each={bench.each}
                  places={places}
                  onCancel={() => setIsPutting(false)}
                  onDone={() => saveDraft('')}
                />
              </FormDialog>
            )}
          </>
        ) : !bench.isCompared ? (
          <p className="text-muted">Comparing …</p>
        ) : (
          <>
            <h2 className="text-lg">Nothing can be made of these</h2>
            <p className="mt-1 text-muted">
              Each row on the left says what is missing. Add a drive, choose another family, or keep fewer spares.
            </p>
          </>
        )}
      </aside>
    </div>
  );
}

/** The address as it stands, with the chosen layout in it even when nobody has pressed one. */
function addressOf(layout: string): string {
  const query = new URLSearchParams(window.location.search);
  query.set('layout', layout);
  return query.toString();
}

/** Once the sheet is changed it is no longer what the address began with. */
function forgetBeginning(): void {
  const url = new URL(window.location.href);
  url.searchParams.delete('kept');
  url.searchParams.delete('unit');
  window.history.replaceState(null, '', url);
}
