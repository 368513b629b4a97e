import type { ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { Progress } from '~/web/parts/worker/Progress';
import type { useForeseen } from './useForeseen';

/** What the chances in the table are of, and the way to the others: reckoned as if all were new, or simulated as they are. */
export function ForeseeAll({
  foreseen: { state, start, stop },
}: {
  readonly foreseen: ReturnType<typeof useForeseen>;
}): ReactNode {
  return (
    <div
      className="no-print flex flex-wrap items-center gap-x-3 gap-y-1 text-sm text-muted"
      data-foreseen={state.kind}
      aria-live="polite"
    >
      {state.kind === 'idle' && (
        <>
          Chances as of new drives that fail one by one.
          <Button onClick={start}>Simulate them, with ages and lots</Button>
        </>
      )}
      {state.kind === 'busy' && (
        <>
          Living every layout some thousand times
          <Progress label="Layouts lived" share={state.share} onStop={stop} />
        </>
      )}
      {state.kind === 'done' && (
        <>
          Chances simulated: ages and lots as on the sheet, somebody acts the same day, a new drive comes in three days,
          everything is read once a month.
          <Button onClick={stop}>As of new drives</Button>
        </>
      )}
      {state.kind === 'fault' && <Notice grave>{state.sentence}</Notice>}
    </div>
  );
}
