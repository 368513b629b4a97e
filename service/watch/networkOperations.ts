import type { FromSchema } from 'json-schema-to-ts';
import { isRefusal, type Refusal } from '../../core/value/refusal';
import { networksSchema } from '../../schemas/watch';
import { allowedNetworks, saveNetworks, type AllowedNetwork } from '../../store/networks';
import type { App } from '../app';
import { operation, operationTaking } from '../door/operation';
import { inTransaction } from '../ledgers/inTransaction';
import { setByMachine } from './nearby';
import { readNetwork } from './network';

/** Networks besides the private ones in which units may be asked. */
export interface WatchNetworks {
  readonly networks: readonly AllowedNetwork[];
  /** As whoever runs the machine has set them: not changed from here. */
  readonly byMachine: readonly string[];
}

export async function readNetworks(app: App): Promise<WatchNetworks> {
  return { networks: await allowedNetworks(app.db), byMachine: setByMachine() };
}

const get = operation({
  method: 'GET',
  path: '/watch-networks',
  summary: 'Networks besides the private ones in which units may be asked',
  needs: 'owner',
  scope: 'read',
  run: ({ app }) => readNetworks(app),
});

/** As they are kept, or the first that is none, by its place. */
function readAll(texts: readonly string[]): string[] | Refusal {
  const read: string[] = [];
  for (const [i, text] of texts.entries()) {
    const network = readNetwork(text);
    if (isRefusal(network)) return { ...network, pointer: `/networks/${String(i)}` };
    read.push(`${network.net}/${String(network.bits)}`);
  }
  return [...new Set(read)];
}

const put = operationTaking<FromSchema<typeof networksSchema>>(networksSchema)({
  method: 'PUT',
  path: '/watch-networks',
  summary: 'Allow units to be asked in these networks besides the private ones, and in no others',
  needs: 'owner',
  scope: 'write',
  run: async ({ app, body, viewer }) => {
    const networks = readAll(body.networks);
    if (isRefusal(networks)) return networks;
    await inTransaction(app.db, async (tx) => {
      await saveNetworks(tx, networks, viewer.name);
      return undefined;
    });
    return readNetworks(app);
  },
});

export const networkOperations = [get, put];
