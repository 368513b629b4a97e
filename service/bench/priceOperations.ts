import type { FromSchema } from 'json-schema-to-ts';
import { priceListSchema, type PriceList } from '../../schemas/priceList';
import { priceList, savePriceList } from '../../store/prices';
import type { App } from '../app';
import { operation, operationTaking } from '../door/operation';

/** What drives cost as it was last written down for everybody, by whom and when. */
export interface KeptPrices extends PriceList {
  readonly setBy: string;
  readonly setAt: string;
}

export async function readPriceList(app: App): Promise<KeptPrices | null> {
  const kept = await priceList(app.db);
  return kept ? { ...(kept.body as PriceList), setBy: kept.setBy, setAt: kept.setAt } : null;
}

const readThem = operation({
  method: 'GET',
  path: '/prices',
  summary: 'What drives cost, as it is kept for everybody; nothing where nobody has written it down',
  needs: 'reader',
  scope: 'read',
  run: async ({ app }) => ({ kept: await readPriceList(app) }),
});

const keepThem = operationTaking<FromSchema<typeof priceListSchema>>(priceListSchema)({
  method: 'PUT',
  path: '/prices',
  summary: 'Keep what drives cost for everybody who plans with it',
  needs: 'keeper',
  scope: 'write',
  run: async ({ app, viewer, body }) => {
    await savePriceList(app.db, { body, setBy: viewer.name });
    return { kept: await readPriceList(app) };
  },
});

export const prices = [readThem, keepThem];
