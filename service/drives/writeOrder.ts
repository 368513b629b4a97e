import { canonicalJson } from '../../core/value/canonicalJson';
import type { Database } from '../../store/database';
import { insertOrder, listOrders, lockOrders, ordersOfLate, type DriveOrder } from '../../store/orders';

type NewOrder = Omit<DriveOrder, 'received' | 'closed'>;

/** So long the same from the same person is the same once more: a button pressed twice, an answer that got lost. */
const SAME_SECONDS = 15;

/**
 * Writes an order down once, however often it is sent: under one id, or as the same words by the same person within a moment.
 *
 * @param how whether its time was said (where it was not, each sending has one of its own), and whether its id was
 * @returns the order's id, or that another order has it
 */
export function writeOrder(
  db: Database,
  order: NewOrder,
  how: { readonly isDated: boolean; readonly isNamed: boolean },
): Promise<string> {
  return db.transaction().execute(async (tx) => {
    await lockOrders(tx);
    const said = (one: NewOrder): string => {
      const { supplier, count, drive, expectedOn, note, recordedBy } = one;
      return canonicalJson({
        supplier,
        count,
        drive,
        expectedOn,
        note,
        recordedBy,
        ...(how.isDated ? { orderedAt: one.orderedAt } : {}),
      });
    };
    const [known] = await listOrders(tx, order.id);
    if (known) return said(known) === said(order) ? known.id : 'differs';
    const late = new Set(how.isNamed ? [] : await ordersOfLate(tx, SAME_SECONDS));
    const same =
      late.size === 0 ? undefined : (await listOrders(tx)).find((one) => late.has(one.id) && said(one) === said(order));
    if (same) return same.id;
    await insertOrder(tx, order);
    return order.id;
  });
}
