import { access } from './access/access';
import { drives } from './drives/driveOperations';
import { growth } from './bench/growthOperations';
import { prices } from './bench/priceOperations';
import { outlooks } from './bench/outlookOperations';
import { times } from './bench/timeOperations';
import { listings } from './move/listingOperations';
import { moving } from './move/moveOperations';
import { layouts } from './bench/layoutOperations';
import { comparisons } from './bench/comparisons';
import { openApiDocument } from './door/openApi';
import { operation } from './door/operation';
import { profiles } from './settings/profiles';
import { papers } from './takeAway/paperOperations';
import { plans } from './plans/planOperations';
import { acts } from './ledgers/actOperations';
import { recordOperations } from './units/recordOperations';
import { reportOperations } from './units/reportOperations';
import { letterOperations } from './letter/letterOperations';
import { scans } from './scans/scanOperations';
import { tellOperations } from './tell/tellOperations';
import { takeAway } from './takeAway/exportOperations';
import { units } from './units/unitOperations';
import { upkeepOperations } from './upkeep/upkeepOperations';
import { networkOperations } from './watch/networkOperations';
import { watchOperations } from './watch/watchOperations';

const openApi = operation({
  method: 'GET',
  path: '/openapi.json',
  summary: 'This interface, as an OpenAPI 3.1 document',
  needs: 'reader',
  scope: 'read',
  run: (): Promise<object> => Promise.resolve(openApiDocument(OPERATIONS)),
});

/** Everything that can be asked for below /api/v1. */
export const OPERATIONS = [
  ...layouts,
  ...growth,
  ...prices,
  ...outlooks,
  ...times,
  ...moving,
  ...listings,
  ...profiles,
  ...comparisons,
  ...units,
  ...recordOperations,
  ...reportOperations,
  ...acts,
  ...plans,
  ...scans,
  ...drives,
  ...papers,
  ...upkeepOperations,
  ...watchOperations,
  ...networkOperations,
  ...tellOperations,
  ...letterOperations,
  ...takeAway,
  ...access,
  openApi,
];
