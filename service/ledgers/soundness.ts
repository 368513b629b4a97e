import { actsAfter } from '../../store/acts';
import type { Database } from '../../store/database';
import { faultsOfLedgers, fingerprints } from '../../store/soundness';
import { lacksSnapshots } from '../../store/units';
import { rebuildProjections } from './rebuild';
import { asTaken, faultOfForm } from './whyNotKept';

const AT_ONCE = 500;
const MOST_NAMED = 10;

/** What is off in a whole database, a sentence each. */
export interface Off {
  /** The ledgers are not whole, or come to nothing that can be. */
  readonly broken: readonly string[];
  /** They are whole; times, authors, forms or computed rows are not as this program writes them. */
  readonly odd: readonly string[];
}

/**
 * Holds a whole database against its ledgers: gaps, entries of no form, times and authors that cannot be, and computed
 * rows that are not what the ledgers come to. What is computed is made again on the way.
 */
export async function whatIsOff(db: Database): Promise<Off> {
  const faults = await faultsOfLedgers(db);
  const broken = faults.filter(({ isBroken }) => isBroken).map(({ fault }) => fault);
  const odd = [...faults.filter(({ isBroken }) => !isBroken).map(({ fault }) => fault), ...(await faultsOfForm(db))];
  // Rows of another version of the model say nothing against the ledgers.
  const before = (await lacksSnapshots(db)) ? null : await fingerprints(db);
  try {
    await rebuildProjections(db);
  } catch (error) {
    return { broken: [...broken, (error as Error).message], odd };
  }
  if (before === null) return { broken, odd };
  const after = await fingerprints(db);
  const other = [...new Set([...before.keys(), ...after.keys()])].filter((key) => before.get(key) !== after.get(key));
  const named = other
    .slice(0, MOST_NAMED)
    .map((key) => `What is computed in ${key.replace(' ', ' for ')} is not what its ledger comes to.`);
  const more = other.length > MOST_NAMED ? [`So are ${String(other.length - MOST_NAMED)} more.`] : [];
  return { broken, odd: [...odd, ...named, ...more] };
}

async function faultsOfForm(db: Database): Promise<string[]> {
  const faults: string[] = [];
  for (let n = 0; ;) {
    const acts = await actsAfter(db, n, AT_ONCE);
    for (const { recordedAt, entries: written, ...act } of acts) {
      const fault = faultOfForm(asTaken({ act, written }, recordedAt));
      if (fault !== undefined && faults.length < MOST_NAMED) faults.push(`Act ${act.id}: ${fault}`);
    }
    n = acts.at(-1)?.n ?? n;
    if (acts.length < AT_ONCE) return faults;
  }
}
