import type { Finding } from '~/core/rebuild/liveEstimate';
import type { JobTask } from '~/core/unit/state';

/** What was noticed of running work, and what to do about it. */
export const FINDING_WORDS: Readonly<Record<Finding, string>> = {
  stalled: 'It stands still. Look at the unit’s log for a drive that answers slowly; do not restart it.',
  slowed: 'It goes slower than it did: a load on the unit, or a drive that hesitates. Look at the log.',
  restarted: 'It began anew. Once is a hiccup; twice is a drive: look at the log.',
};

export const FINDING_SHORT: Readonly<Record<Finding, string>> = {
  stalled: 'stands still',
  slowed: 'slower than it was',
  restarted: 'began anew',
};

/** What a unit is busy with, in a word or two for the strip. */
export const WORK_WORDS: Readonly<Record<JobTask, string>> = {
  'first-build': 'first build',
  rebuild: 'rebuilding',
  replace: 'rebuilding',
  scrub: 'checking',
  expand: 'expanding',
  convert: 'converting',
  copy: 'copying',
  test: 'testing',
};
