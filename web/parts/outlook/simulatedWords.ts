import type { Simulated } from '~/core/risk/simulate/simulate';
import { chanceWords, riskWords } from '~/web/parts/bench/words';

/** Both ends; what no life showed is said as less than could have been missed. */
export function simulatedWords(good: Simulated, bad: Simulated, words = chanceWords): string {
  if (bad.trouble === 'none-seen') return `under ${words(bad.high)}`;
  const told = good === bad ? words(bad.likely) : riskWords([good.likely, bad.likely]);
  return bad.trouble === 'few-carry-it' ? `about ${told}` : told;
}
