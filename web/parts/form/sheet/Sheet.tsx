'use client';
import type { ReactNode } from 'react';
import { FormProvider, type FieldValues } from 'react-hook-form';
import { Button, type Look } from '../Button';
import { Moment } from '~/web/parts/unit/Moment';
import { Notice } from '../Notice';
import { SubmitButton } from '../SubmitButton';
import type { SheetState } from './useSheet';

interface Props<V extends FieldValues> {
  readonly of: SheetState<V>;
  /** The words of the button that sends it. */
  readonly sends: ReactNode;
  readonly look?: Look;
  /** It cannot be sent as it stands, for a reason that is said elsewhere. */
  readonly isHeld?: boolean;
  readonly onCancel?: (() => void) | undefined;
  /** The words of the button that leaves it. */
  readonly cancels?: string;
  readonly label?: string;
  readonly className?: string;
  readonly children: ReactNode;
}

/** A form: its fields, what is wrong with it as a whole, and the button that sends it. Enter sends it too. */
export function Sheet<V extends FieldValues>({
  of,
  sends,
  look = 'main',
  isHeld = false,
  onCancel,
  cancels = 'Leave it',
  label,
  className = '',
  children,
}: Props<V>): ReactNode {
  return (
    <FormProvider {...of.form}>
      <form
        noValidate
        aria-label={label}
        className={`grid gap-4 ${className}`}
        onSubmit={(event) => {
          // A form inside another part of the tree is nobody else's.
          event.stopPropagation();
          void of.submit(event);
        }}
      >
        {of.draftOf !== null && (
          <p role="status" className="text-sm text-muted">
            Your draft of <Moment at={of.draftOf} />, not sent.{' '}
            <button type="button" className="min-h-9 text-action underline max-sm:min-h-11" onClick={of.startAfresh}>
              Begin anew
            </button>
          </p>
        )}
        {children}
        {of.fault !== undefined && <Notice grave>{of.fault}</Notice>}
        <div className="flex flex-wrap justify-end gap-2">
          {onCancel && <Button onClick={onCancel}>{cancels}</Button>}
          <SubmitButton look={look} busy={of.busy || isHeld}>
            {sends}
          </SubmitButton>
        </div>
      </form>
    </FormProvider>
  );
}
