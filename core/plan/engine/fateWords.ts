import type { StepEvidence } from '../plan';

/** What becomes of one drive that left. */
export type Fate = Extract<StepEvidence, { kind: 'fates' }>['fates'][number];

/** In words: "wiped (purge, checked) by Reeve, then into the drawer top". */
export function fateWords({ wiped, goes }: Fate): string {
  const emptied = wiped ? `wiped (${wiped.method}, ${wiped.checked ? 'checked' : 'not checked'}) by ${wiped.by}` : '';
  const where = {
    stays: 'kept as it is for now',
    drawer: goes.kind === 'drawer' ? `in a drawer: ${goes.site}, ${goes.room}, ${goes.drawer}` : '',
    warranty: goes.kind === 'warranty' ? `back under warranty to ${goes.to}` : '',
    away: goes.kind === 'away' ? `sent away to ${goes.to}` : '',
  }[goes.kind];
  return [emptied, where].filter(Boolean).join(', ');
}
