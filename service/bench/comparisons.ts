import { randomUUID } from 'node:crypto';
import type { FromSchema } from 'json-schema-to-ts';
import { refusal } from '../../core/value/refusal';
import { comparisonSchema } from '../../schemas/comparison';
import { allComparisons, deleteComparison, insertComparison } from '../../store/comparisons';
import type { App } from '../app';
import { operation, operationTaking } from '../door/operation';
import { removal } from '../door/removal';

export type Comparison = FromSchema<typeof comparisonSchema>;

export interface KeptComparison {
  readonly id: string;
  readonly keptBy: string;
  readonly keptAt: string;
  readonly comparison: Comparison;
}

/** Everything that was kept on the bench, newest first. */
export async function readComparisons(app: App): Promise<KeptComparison[]> {
  return (await allComparisons(app.db)).map(({ id, body, keptBy, keptAt }) => ({
    id,
    keptBy,
    keptAt,
    comparison: body as Comparison,
  }));
}

const noComparison = refusal('not-found', 'There is no such comparison.');

const list = operation({
  method: 'GET',
  path: '/comparisons',
  summary: 'Comparisons kept on the bench',
  needs: 'reader',
  scope: 'read',
  run: async ({ app }) => ({ comparisons: await readComparisons(app) }),
});

const get = operation({
  method: 'GET',
  path: '/comparisons/{id}',
  summary: 'One comparison, as JSON to take away',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params }) =>
    (await readComparisons(app)).find(({ id }) => id === params['id'])?.comparison ?? noComparison,
});

const keep = operationTaking<Comparison>(comparisonSchema)({
  method: 'POST',
  path: '/comparisons',
  summary: 'Keep a comparison under a name',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, body }) => {
    const id = randomUUID();
    await insertComparison(app.db, { id, name: body.name.trim(), body, keptBy: viewer.name });
    return { id };
  },
});

const remove = removal('/comparisons/{id}', 'Forget a comparison', deleteComparison, noComparison);

export const comparisons = [list, get, keep, remove];
