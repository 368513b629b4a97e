import type { Finding } from '~/core/rebuild/liveEstimate';

/** What was noticed of running work, and what to do about it. */
export const FINDING_WORDS: Readonly<Record<Finding, string>> = {
  stalled: 'It stands still. Look at the unit’s log for a drive that answers slowly; do not restart it.',
  slowed: 'It goes slower than it did: a load on the unit, or a drive that hesitates. Look at the log.',
  restarted: 'It began anew. Once is a hiccup; twice is a drive: look at the log.',
};

export const FINDING_SHORT: Readonly<Record<Finding, string>> = { stalled: 'stands still', slowed: 'slower than it was', restarted: 'began anew' };
