import { statSync } from 'node:fs';
import Sequencer from '@jest/test-sequencer';

/**
 * Files in a browser first, then by their size: what takes minutes begins while there is enough else to do beside it, and
 * nobody waits for one long file at the end.
 */
export default class LongestFirst extends Sequencer {
  sort(tests) {
    const isInBrowser = ({ context }) => Number(context.config.displayName?.name === 'e2e');
    const size = ({ path }) => statSync(path).size;
    return [...tests].sort((a, b) => isInBrowser(b) - isInBrowser(a) || size(b) - size(a));
  }
}
