'use client';
import { RadioGroup } from 'radix-ui';
import { useMemo, useState, type ReactNode } from 'react';
import { candidatesFor } from '~/core/plan/makers/candidates';
import { ageMatesOf } from '~/core/plan/makers/ageMates';
import type { NewDrive } from '~/core/plan/makers/handsOnDrive';
import { compareBays } from '~/core/quantity/bayOrder';
import { formatBytes } from '~/core/quantity/formatBytes';
import { shownAmount } from '~/core/quantity/shownAmount';
import { isRefusal } from '~/core/value/refusal';
import { bayName, bayShort } from '~/core/unit/bayName';
import { CONDITION_WORDS } from '~/core/unit/standingWords';
import { poolsOf, freeBays, membersOf, poolOfDrive, type DriveInUnit } from '~/core/unit/state';
import type { DrawerDrive } from '~/core/upkeep/spareCoverage';
import type { PlanJob } from '~/schemas/plan';
import { Field } from '~/web/parts/form/Field';
import { PickLine } from '~/web/parts/form/PickLine';
import { Select } from '~/web/parts/form/Select';
import { RadioDot } from '~/web/parts/form/Radios';
import { CopyProven } from './CopyProven';
import { DECIMAL } from './decimal';
import { MarginTimeline, RiskFigures } from './MarginTimeline';
import { fromDrawer, NewDriveChoice } from './NewDriveChoice';
import { PlanAsk, type PlanFormProps } from './PlanAsk';
import { usePlanTried, type Tried } from './usePlanTried';
import { spareFor } from '~/core/plan/makers/sparesAside';
import type { ReplaceWish } from '~/core/plan/makers/replace';
import { Sentence } from '~/web/parts/frame/Sentence';

interface Props extends PlanFormProps {
  readonly drawers: readonly DrawerDrive[];
  readonly serial: string | undefined;
}

type What = 'replace' | 'spare-in' | 'whole' | 'rebuild';

const WORSE: readonly DriveInUnit['condition'][] = ['failed', 'removed', 'out-of-service', 'suspected', 'well'];

/** Which drive goes, what comes in, and by which way; beside it the plan as it would be, with what each way risks. */
export function ReplaceForm({ id, version, unit, drawers, serial: asked, mayRecord }: Props): ReactNode {
  const members = useMemo(
    () =>
      poolsOf(unit)
        .flatMap(membersOf)
        .flatMap((of) => unit.drives[of] ?? [])
        .sort(
          (a, b) => WORSE.indexOf(a.condition) - WORSE.indexOf(b.condition) || compareBays(a.bay ?? '', b.bay ?? ''),
        ),
    [unit],
  );
  const [serial, setSerial] = useState(members.find((one) => one.serial === asked)?.serial ?? members[0]?.serial ?? '');
  const [picked, setWhat] = useState<What>('replace');
  // The way that never thins the pool, wherever the family has it.
  const [way, setWay] = useState<'in-place' | 'free-bay'>('free-bay');
  const [copyProven, setCopyProven] = useState(false);
  const [moved, setMoved] = useState('');
  const old = unit.drives[serial];
  const pool = old && poolOfDrive(unit, serial);
  const candidates = useMemo(
    () => (old && pool ? candidatesFor(unit, pool, old, drawers) : []),
    [unit, pool, old, drawers],
  );
  // One that was sick is never chosen for anybody, tested or not.
  const best = candidates.find(({ fits, drive }) => fits && drive.sick === undefined);
  const [drive, setDrive] = useState<NewDrive | null>(best ? fromDrawer(best.drive) : null);
  const free = freeBays(unit);
  const [bay, setBay] = useState(free[0] ?? '');
  const isMissing = pool?.missing.includes(serial) === true;
  const spare = pool && old ? spareFor(unit, pool, old)?.serial : undefined;
  const kinds: readonly { readonly id: What; readonly words: string }[] = [
    // A spare in the unit has stepped in for it, or will: nothing else is planned over it.
    isMissing && spare !== undefined
      ? { id: 'spare-in', words: `Its spare ${spare} stands in; replace that afterwards` }
      : { id: 'replace', words: isMissing ? 'Replace it' : 'Replace it before it fails' },
    ...(isMissing
      ? [
          { id: 'whole' as const, words: 'It is there again, and the unit took it back whole' },
          { id: 'rebuild' as const, words: 'It is there again, and the unit wants to rebuild onto it' },
        ]
      : []),
  ];
  const what = kinds.find(({ id: of }) => of === picked)?.id ?? (kinds[0]?.id as What);
  const isReplace = what === 'replace';
  // Less to rebuild is thin for fewer hours, where only used space is.
  const mayMoveOff = isReplace && unit.profile.rebuild.covers === 'used-space';
  const off = mayMoveOff && moved.trim() !== '' ? shownAmount(moved, DECIMAL) : 0;
  const moveOff = isRefusal(off) || off === 0 ? {} : { moveOffBytes: off };
  const hasFreeWay = unit.profile.rebuild.throughFreeBay && free.length > 0 && !isMissing;
  const inPlaceWish: ReplaceWish | null =
    isReplace && drive ? { serial, drive, way: 'in-place', ...moveOff, ...(copyProven ? { copyProven } : {}) } : null;
  const throughWish: ReplaceWish | null =
    isReplace && drive && hasFreeWay ? { serial, drive, way: 'free-bay', bay, ...moveOff } : null;
  const inPlace = usePlanTried('replace', id, inPlaceWish);
  const through = usePlanTried('replace', id, throughWish);
  const job: PlanJob = isReplace ? 'replace' : what === 'spare-in' ? 'spare-in' : 'came-back';
  const otherWish =
    what === 'spare-in'
      ? drive && spare !== undefined
        ? { serial, spare, drive }
        : null
      : isReplace
        ? null
        : { serial, how: what };
  const other = usePlanTried(isReplace ? 'came-back' : job, id, otherWish);
  const tried = isReplace ? (way === 'free-bay' && hasFreeWay ? through : inPlace) : other;
  const wish = isReplace ? (way === 'free-bay' && hasFreeWay ? throughWish : inPlaceWish) : otherWish;

  if (!old || !pool) return <p className="text-muted">No member stands in this unit: there is nothing to replace.</p>;
  const mates = ageMatesOf(unit, pool, old);

  return (
    <PlanAsk id={id} version={version} unit={unit} mayRecord={mayRecord} job={job} wish={wish} tried={tried}>
      <div className="grid gap-4 sm:grid-cols-2">
        <PickLine
          label="The drive that goes"
          name="old"
          value={serial}
          options={members.map(({ serial: of, bay: at, condition, bytes }) => ({
            value: of,
            words: `${at === null ? 'taken out' : bayName(unit, at)}: ${of}, ${formatBytes(bytes)}, ${CONDITION_WORDS[condition]}`,
          }))}
          onValue={(of) => {
            setSerial(of);
            setWhat('replace');
            setDrive(null);
          }}
        />
        {kinds.length > 1 && (
          <PickLine
            label="What is done"
            value={what}
            onValue={(of) => setWhat(of as What)}
            options={kinds.map(({ id: of, words }) => ({ value: of, words }))}
          />
        )}
      </div>
      {mates.length > 0 && (
        <p className="text-watch">
          <Sentence
            of={`As old as it: ${mates.map(({ bay: at, serial: of }) => `${bayName(unit, at)} (${of})`).join(', ')}. Plan the second replacement after this one, never together.`}
          />
        </p>
      )}
      {(isReplace || what === 'spare-in') && (
        <NewDriveChoice key={serial} candidates={candidates} first={drive?.serial ?? best?.serial} onDrive={setDrive} />
      )}
      {mayMoveOff && (
        <div className="max-w-[420px]">
          <Field
            label="Take off first, what has another home"
            name="moveOff"
            value={moved}
            placeholder="1.5 TB"
            autoComplete="off"
            hint="Only used space is rebuilt by this family: what is moved off saves hours of thin time. Left empty where nothing is."
            {...(isRefusal(off) ? { fault: off.sentence } : {})}
            onChange={(event) => setMoved(event.target.value)}
          />
        </div>
      )}
      {isReplace && (
        <RadioGroup.Root
          aria-label="By which way"
          className="grid gap-3 md:grid-cols-2"
          value={hasFreeWay ? way : 'in-place'}
          onValueChange={(value) => setWay(value as typeof way)}
        >
          <h2 className="text-lg md:col-span-2">By which way</h2>
          <Way
            id="in-place"
            words={`In its own bay${old.bay === null ? '' : `, ${bayShort(unit, old.bay)}`}`}
            tried={inPlace}
            pool={pool.id}
            chosen={hasFreeWay ? way : 'in-place'}
          />
          {hasFreeWay ? (
            <Way id="free-bay" words="Through a free bay" tried={through} pool={pool.id} chosen={way}>
              <div className="mt-1 flex items-center gap-2 text-sm">
                Bay
                <Select
                  label="Free bay"
                  className="w-28"
                  value={bay}
                  onValue={setBay}
                  options={free.map((one) => ({ value: one, words: bayShort(unit, one) }))}
                />
              </div>
            </Way>
          ) : (
            <p className="border border-dashed border-line p-3 text-muted">
              {isMissing
                ? 'Through a free bay: only while the old drive still works.'
                : unit.profile.rebuild.throughFreeBay
                  ? 'Through a free bay: there is none.'
                  : 'Through a free bay: this family does not do that.'}
            </p>
          )}
        </RadioGroup.Root>
      )}
      {isReplace && tried === inPlace && <CopyProven tried={inPlace} isProven={copyProven} onProven={setCopyProven} />}
    </PlanAsk>
  );
}

interface WayProps {
  readonly id: 'in-place' | 'free-bay';
  readonly words: string;
  readonly tried: Tried;
  readonly pool: string;
  readonly chosen: string;
  readonly children?: ReactNode;
}

function Way({ id, words, tried, pool, chosen, children }: WayProps): ReactNode {
  const risk = tried.kind === 'tried' ? tried.risks.find((one) => one.pool === pool) : undefined;
  return (
    <div className={`border bg-surface p-3 ${chosen === id ? 'border-action' : 'border-line'}`} data-way={id}>
      <label className="flex min-h-9 items-center gap-2 font-semibold">
        <RadioDot value={id} />
        {words}
      </label>
      {children}
      {tried.kind === 'refused' && <p className="mt-1 font-semibold text-thinned">{tried.sentence}</p>}
      {risk && (
        <>
          <MarginTimeline risk={risk} label={`${words}: margin against time`} here={false} />
          <RiskFigures risk={risk} />
        </>
      )}
    </div>
  );
}
