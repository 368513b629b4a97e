'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { FormDialog } from '~/web/parts/form/FormDialog';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import { tell } from '~/web/parts/tell/tell';

/** An entry as it is taken back, with its act. */
export interface WrongEntry {
  readonly act: string;
  readonly seq: number;
  readonly words: string;
  /** What was recorded with it, and goes with it: the first of these, and how many more. */
  readonly together: readonly string[];
  readonly more: number;
  /** The first entry of the unit is among them: then the unit itself was not so. */
  readonly isBeginning: boolean;
}

interface Props {
  readonly wrong: WrongEntry;
  readonly onClose: () => void;
}

/** Takes back what was not so, with all that was recorded with it, and why. */
export function Withdraw({ wrong, onClose }: Props): ReactNode {
  const router = useRouter();
  const sheet = useSheet({
    start: { reason: '' },
    sends: 'POST /acts/{id}/back',
    asks: ({ reason }) => ({ id: wrong.act, body: { reason: reason.trim() } }),
    done: () => {
      onClose();
      tell('Withdrawn. Both entries stay in the ledger.');
      if (wrong.isBeginning) router.push('/');
      else router.refresh();
    },
  });
  return (
    <FormDialog title="Withdraw an entry" onClose={onClose}>
      <Sheet of={sheet} sends="Withdraw it" look="grave">
        <p>“{wrong.words}” stays in the ledger and no longer counts; everything after it is worked out anew.</p>
        {wrong.together.length > 0 && (
          <div data-together>
            <p>It was recorded together with what follows, which goes with it:</p>
            <ul className="list-disc pl-5">
              {wrong.together.map((words, i) => (
                <li key={i}>{words}</li>
              ))}
              {wrong.more > 0 && <li>and {wrong.more} more</li>}
            </ul>
          </div>
        )}
        <TextField name="reason" label="Why it was not so" required maxLength={400} autoFocus />
      </Sheet>
    </FormDialog>
  );
}
