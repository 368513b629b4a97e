import { useId, type InputHTMLAttributes, type ReactNode, type Ref, type TextareaHTMLAttributes } from 'react';
import { Labelled, type Words } from './Labelled';

interface Input extends Words, InputHTMLAttributes<HTMLInputElement> {
  /** The unit behind a number. */
  readonly suffix?: string;
  readonly inputRef?: Ref<HTMLInputElement>;
}

/** A labelled input with its hint and its fault, tied together for screen readers. */
export function Field({ label, hint, fault, suffix, inputRef, ...input }: Input): ReactNode {
  const id = useId();
  const box = (
    <input
      id={id}
      {...(inputRef === undefined ? {} : { ref: inputRef })}
      className={`field ${suffix === undefined ? '' : 'pr-16'}`}
      aria-invalid={fault !== undefined}
      aria-describedby={`${id}-hint`}
      {...input}
    />
  );
  return (
    <Labelled id={id} label={label} hint={hint} fault={fault}>
      {suffix === undefined ? (
        box
      ) : (
        <span className="relative block">
          {box}
          <span className="pointer-events-none absolute inset-y-0 right-3 flex items-center text-muted">{suffix}</span>
        </span>
      )}
    </Labelled>
  );
}

interface AreaProps extends Words, TextareaHTMLAttributes<HTMLTextAreaElement> {
  readonly areaRef?: Ref<HTMLTextAreaElement>;
}

/** The same for text of several lines. */
export function Area({ label, hint, fault, className = '', areaRef, ...area }: AreaProps): ReactNode {
  const id = useId();
  return (
    <Labelled id={id} label={label} hint={hint} fault={fault}>
      <textarea
        id={id}
        {...(areaRef === undefined ? {} : { ref: areaRef })}
        className={`field ${className}`}
        aria-invalid={fault !== undefined}
        aria-describedby={`${id}-hint`}
        {...area}
      />
    </Labelled>
  );
}
