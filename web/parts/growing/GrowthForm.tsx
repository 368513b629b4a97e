'use client';
import { format } from 'date-fns';
import { useRef, type ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import { pricesText, readPrices } from '~/core/growth/readPrices';
import type { Scheme } from '~/core/layout/scheme';
import { FULL_LINE } from '~/core/upkeep/need';
import { isRefusal } from '~/core/value/refusal';
import type { KeptPrices } from '~/service/bench/priceOperations';
import { TickField, TicksField } from '~/web/parts/form/fields/SelectField';
import { AreaField, NumberField, TextField } from '~/web/parts/form/fields/TextField';
import { parseCents } from '~/web/parts/form/parseCents';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { isUnread, unread, useSheet, type Unread } from '~/web/parts/form/sheet/useSheet';
import { api, type AskedOf } from '~/web/parts/form/api';
import { tell } from '~/web/parts/tell/tell';
import type { GrowthFound } from './growthWorker';
import type { GrowthSearch } from './useGrowthSearch';
import {
  NEW_UNIT_AT,
  newUnitAsked,
  NewUnitFields,
  NO_NEW_UNIT,
  type FamilyToBuy,
  type NewUnitValues,
} from './NewUnitFields';

/** The answer with what it answers. */
export interface GrownAsAsked {
  readonly grown: GrowthFound;
  readonly asked: AskedOf<'POST /units/{id}/growth'>['body'];
  readonly deliveryDays: number;
}

/** What stands in the form, field by field. */
interface Values extends NewUnitValues {
  readonly prices: string;
  readonly need: string;
  readonly used: string;
  readonly years: string;
  readonly decline: string;
  readonly labour: string;
  readonly delivery: string;
  readonly floor: string;
  /** Hours a swap may take it below that. */
  readonly brief: string;
  readonly budget: string;
  readonly allow: readonly string[];
  /** Of an extension that may be hung on. */
  readonly boxBays: string;
  readonly boxPrice: string;
  /** Whether what drives cost is kept for everybody. */
  readonly isKept: boolean;
}

interface Props {
  readonly unit: string;
  readonly pool: string;
  readonly scheme: Scheme;
  readonly families: readonly FamilyToBuy[];
  /** The bays of an extension; nothing where the family takes none. */
  readonly extensionBays: number | null;
  /** The family makes another level of such a pool and keeps the data. */
  readonly mayConvert: boolean;
  /** As its history says; nothing where there is none. */
  readonly needPerYear: number | null;
  readonly isUsedKnown: boolean;
  /** What drives cost, as it was last written down. */
  readonly kept: KeptPrices | null;
  readonly mayKeep: boolean;
  readonly search: GrowthSearch;
  readonly onGrown: (grown: GrownAsAsked) => void;
}

const TB = 1e12;
const asMoney = (cents: number): string => (cents / 100).toFixed(2).replace('.00', '');
const ALLOW = [
  { value: 'swap', words: 'swap members for larger drives' },
  { value: 'add', words: 'add drives in free bays' },
  { value: 'group', words: 'add whole groups' },
  { value: 'extend', words: 'hang on an extension' },
  { value: 'convert', words: 'change the level, where the data stays' },
] as const;
type Kind = (typeof ALLOW)[number]['value'];

/** What a unit of the family can do at all. */
export function offered(extensionBays: number | null, mayConvert: boolean): readonly (typeof ALLOW)[number][] {
  return ALLOW.filter(
    ({ value }) => (value !== 'extend' || extensionBays !== null) && (value !== 'convert' || mayConvert),
  );
}

const numberOf = (text: string): number => Number(text.trim().replace(',', '.'));

/** Keeps what was asked with as the price list of everybody, unless it is what was kept last. */
async function keep(
  { prices, declinePerYear = 0, labourCents = 0, budgetCentsPerYear }: GrownAsAsked['asked'],
  deliveryDays: number,
  last: { current: string },
): Promise<void> {
  const body = {
    prices: prices.flatMap(({ bytes, cents }) => (bytes === undefined ? [] : [{ bytes, cents }])),
    declinePerYear,
    labourCents,
    deliveryDays,
    ...(budgetCentsPerYear === undefined ? {} : { budgetCentsPerYear }),
  };
  if (JSON.stringify(body) === last.current) return;
  const sent = await api('PUT /prices', { body });
  if (sent.kind === 'refused') return tell(sent.sentence);
  last.current = JSON.stringify(body);
  tell('Kept: what drives cost is filled in for whoever plans next.');
}

/** What drives cost and what is allowed: asked of whoever plans. */
export function GrowthForm({
  unit,
  pool,
  scheme,
  families,
  extensionBays,
  mayConvert,
  needPerYear,
  isUsedKnown,
  kept,
  mayKeep,
  search,
  onGrown,
}: Props): ReactNode {
  const lastKept = useRef('');
  const start: Values = {
    prices: kept ? pricesText(kept.prices) : '',
    need: needPerYear === null ? '' : (needPerYear / TB).toFixed(2),
    used: '',
    years: '5',
    decline: kept ? String(Math.round(kept.declinePerYear * 1000) / 10) : '10',
    labour: kept ? asMoney(kept.labourCents) : '0',
    delivery: String(kept?.deliveryDays ?? 14),
    floor: '0',
    brief: '24',
    budget: kept?.budgetCentsPerYear === undefined ? '' : asMoney(kept.budgetCentsPerYear),
    isKept: mayKeep && kept === null,
    // What takes hours to days, or a price of its own, is asked for.
    allow: ALLOW.map(({ value }) => value).filter((kind) => kind !== 'extend' && kind !== 'convert'),
    boxBays: String(extensionBays ?? ''),
    boxPrice: '',
    ...NO_NEW_UNIT,
  };
  const asks = ({
    prices: list,
    need,
    used,
    years,
    decline,
    labour,
    floor,
    brief,
    budget: most,
    allow,
    boxBays,
    boxPrice,
    ...newer
  }: Values): Unread | AskedOf<'POST /units/{id}/growth'> => {
    const prices = readPrices(list);
    const work = parseCents(labour.trim() === '' ? '0' : labour);
    if (isRefusal(prices)) return unread({ prices: prices.sentence });
    if (need.trim() === '' || !(numberOf(need) >= 0))
      return unread({ need: 'Say by how much it grows in a year, in TB.' });
    if (!isUsedKnown && !(numberOf(used) > 0)) return unread({ used: 'Say how much is used now, in TB.' });
    if (work === null) return unread({ labour: `“${labour}” is no price: write 40 or 39.90.` });
    const budget = most.trim() === '' ? undefined : parseCents(most);
    if (budget === null) return unread({ budget: `“${most}” is no sum of money: write 900, or leave it empty.` });
    const boxCents = allow.includes('extend') ? parseCents(boxPrice) : 0;
    if (boxCents === null) return unread({ boxPrice: 'Say what the extension costs without drives: write 700.' });
    const newUnit = newUnitAsked(newer);
    if (isUnread(newUnit)) return newUnit;
    return {
      id: unit,
      body: {
        pool,
        ...(isUsedKnown ? {} : { usedBytes: Math.round(numberOf(used) * TB) }),
        needPerYearBytes: Math.round(numberOf(need) * TB),
        line: FULL_LINE,
        years: Number(years),
        prices,
        declinePerYear: Number(decline) / 100,
        labourCents: work,
        allow: allow as Kind[],
        leastMargin: Number(floor),
        ...(Number(floor) > 0 ? { briefHours: Number(brief) } : {}),
        ...(budget === undefined ? {} : { budgetCentsPerYear: budget }),
        ...(allow.includes('extend') ? { extension: { bays: Number(boxBays), cents: boxCents } } : {}),
        ...newUnit,
      },
    };
  };
  const sheet = useSheet<Values, 'POST /units/{id}/growth'>({
    start,
    keep: `growing ${pool}`,
    then: 'sent',
    sends: 'POST /units/{id}/growth',
    at: {
      need: '/needPerYearBytes',
      used: '/usedBytes',
      decline: '/declinePerYear',
      labour: '/labourCents',
      floor: '/leastMargin',
      brief: '/briefHours',
      budget: '/budgetCentsPerYear',
      boxBays: '/extension/bays',
      boxPrice: '/extension/cents',
      ...NEW_UNIT_AT,
    },
    asks,
    does: async ({ body: asked }, values) => {
      const grown = await search.find(asked);
      if (grown === null || isRefusal(grown)) return grown;
      const deliveryDays = Math.max(0, Math.round(numberOf(values.delivery)));
      onGrown({ grown, asked, deliveryDays });
      // What leads nowhere is not what others should begin with.
      if (values.isKept && grown.best) void keep(asked, deliveryDays, lastKept);
      return null;
    },
  });
  const [allowed, floorTyped] = useWatch({ control: sheet.form.control, name: ['allow', 'floor'] });
  const [mayExtend, hasFloor] = [allowed.includes('extend'), Number(floorTyped) > 0];
  return (
    <Sheet
      of={sheet}
      sends="Find the cheapest way"
      label="What it costs, and what is allowed"
      className="border border-line bg-surface p-4"
    >
      <div className="grid gap-4 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <AreaField
          name="prices"
          label="Prices of drives"
          rows={5}
          hint={`${kept ? `As ${kept.setBy} wrote it down on ${format(new Date(kept.setAt), 'd MMMM yyyy')}. ` : ''}A size and a price on each line, as “8 TB, 189.90”. A sheet may be pasted.`}
        />
        <div className="grid grid-cols-2 content-start gap-4">
          <NumberField name="need" label="Grows in a year" unit="TB" min={0} step="any" />
          {!isUsedKnown && <NumberField name="used" label="Used now" unit="TB" min={0} step="any" />}
          <NumberField name="years" label="Look ahead" unit="years" min={1} max={10} />
          <NumberField name="decline" label="Prices fall" unit="% a year" min={0} max={95} />
          <TextField name="labour" label="Work, each step" inputMode="decimal" />
          <NumberField name="delivery" label="Delivery takes" unit="days" min={0} max={365} />
          <NumberField name="floor" label="Always able to lose" unit="more" min={0} max={20} />
          {hasFloor && <NumberField name="brief" label="But for at most" unit="hours" min={0} max={720} />}
          <TextField name="budget" label="At most in a year" inputMode="decimal" placeholder="no limit" />
        </div>
      </div>
      <TicksField name="allow" label="Allowed" options={offered(extensionBays, mayConvert)} />
      {mayExtend && (
        <div className="grid grid-cols-2 items-end gap-4 sm:max-w-[420px]">
          <NumberField name="boxBays" label="An extension has" unit="bays" min={1} max={200} />
          <TextField name="boxPrice" label="Its price, without drives" inputMode="decimal" />
        </div>
      )}
      <NewUnitFields families={families} scheme={scheme} />
      {mayKeep && <TickField name="isKept" words="Keep prices, work, delivery and the year’s money for everybody" />}
    </Sheet>
  );
}
