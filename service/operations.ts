import { access } from './access';
import { drives } from './driveOperations';
import { layouts } from './layoutOperations';
import { comparisons } from './comparisons';
import { openApiDocument } from './openApi';
import { operation, type Operation } from './operation';
import { profiles } from './profiles';
import { papers } from './paperOperations';
import { plans } from './planOperations';
import { acts } from './actOperations';
import { recordOperations } from './recordOperations';
import { takeAway } from './exportOperations';
import { units } from './unitOperations';
import { upkeepOperations } from './upkeepOperations';

const openApi = operation({
  method: 'GET',
  path: '/openapi.json',
  summary: 'This interface, as an OpenAPI 3.1 document',
  needs: 'reader',
  scope: 'read',
  run: () => Promise.resolve(openApiDocument(OPERATIONS)),
});

/** Everything that can be asked for below /api/v1. */
export const OPERATIONS: readonly Operation[] = [
  ...layouts,
  ...profiles,
  ...comparisons,
  ...units,
  ...recordOperations,
  ...acts,
  ...plans,
  ...drives,
  ...papers,
  ...upkeepOperations,
  ...takeAway,
  ...access,
  openApi,
];
