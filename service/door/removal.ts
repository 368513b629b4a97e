import { isUuid } from '../../core/value/isUuid';
import type { Refusal } from '../../core/value/refusal';
import type { Database } from '../../store/database';
import { operation } from './operation';

/** What a keeper may throw away for good, by the id in its path; `none` is said where there is no such thing. */
export function removal<const P extends string>(
  path: P,
  summary: string,
  remove: (db: Database, id: string) => Promise<boolean>,
  none: Refusal,
) {
  return operation({
    method: 'DELETE',
    path,
    summary,
    needs: 'keeper',
    scope: 'write',
    run: async ({ app, params: { id = '' } }) => (isUuid(id) && (await remove(app.db, id)) ? { id } : none),
  });
}
