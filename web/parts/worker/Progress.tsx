import type { ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';

interface Props {
  readonly label: string;
  readonly share: number;
  readonly onStop: () => void;
}

/** How far a long run is, with the way to stop it. */
export function Progress({ label, share, onStop }: Props): ReactNode {
  return (
    <>
      <div
        className="h-2 w-48 bg-line"
        role="progressbar"
        aria-label={label}
        aria-valuenow={Math.round(share * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
      >
        <div className="h-full bg-action" style={{ width: `${String(share * 100)}%` }} />
      </div>
      <Button className="min-h-11" onClick={onStop}>
        Stop
      </Button>
    </>
  );
}
