'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { FormDialog } from '~/web/parts/form/FormDialog';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';

/** As many entries that go together are named. */
const MOST_TOGETHER = 6;

/** An entry as it is taken back. */
export interface WrongEntry {
  readonly words: string;
  /** The first of the unit: with it the unit itself was not so. */
  readonly isBeginning: boolean;
}

interface Props {
  readonly act: string;
  readonly wrong: WrongEntry;
  /** What was recorded with it, and goes with it. */
  readonly together: readonly WrongEntry[];
  readonly onClose: () => void;
}

/** Takes back what was not so, with all that was recorded with it, and why. */
export function Withdraw({ act, wrong, together, onClose }: Props): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: { reason: '' },
    sends: 'POST /acts/{id}/back',
    asks: ({ reason }) => ({ id: act, body: { reason: reason.trim() } }),
    done: () => {
      onClose();
      tell('Withdrawn. Both entries stay in the ledger.');
      if ([wrong, ...together].some(({ isBeginning }) => isBeginning)) router.push('/');
      else router.refresh();
    },
  });
  return (
    <FormDialog title="Withdraw an entry" onClose={onClose}>
      <Sheet of={sheet} sends="Withdraw it" look="grave">
        <p>“{wrong.words}” stays in the ledger and no longer counts; everything after it is worked out anew.</p>
        {together.length > 0 && (
          <div data-together>
            <p>It was recorded together with what follows, which goes with it:</p>
            <ul className="list-disc pl-5">
              {together.slice(0, MOST_TOGETHER).map(({ words }, i) => (
                <li key={i}>{words}</li>
              ))}
              {together.length > MOST_TOGETHER && <li>and {together.length - MOST_TOGETHER} more</li>}
            </ul>
          </div>
        )}
        <TextField name="reason" label="Why it was not so" required maxLength={400} autoFocus />
      </Sheet>
    </FormDialog>
  );
}
