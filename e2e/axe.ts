import { readFileSync } from 'node:fs';
import type { Page } from 'puppeteer-core';

const source = readFileSync('node_modules/axe-core/axe.min.js', 'utf8');

interface Violation {
  readonly id: string;
  readonly impact: string;
  readonly nodes: readonly { readonly target: readonly string[]; readonly failureSummary: string }[];
}

/** What axe-core finds on this page that is serious or worse, as lines to read. */
export async function seriousFaults(page: Page): Promise<string[]> {
  // Not as a script tag: the page's own policy, rightly, does not run what it did not send.
  await page.evaluate(source);
  // A toast on its way in or out has, for a moment, no contrast.
  const violations = (await page.evaluate(
    'axe.run({ exclude: [["[data-sonner-toaster]"]] }, { resultTypes: ["violations"] }).then((result) => result.violations)',
  )) as Violation[];
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .flatMap(({ id, nodes }) =>
      nodes.map(
        ({ target, failureSummary }) => `${id} at ${target.join(' ')}: ${failureSummary.replaceAll('\n', ' ')}`,
      ),
    );
}
