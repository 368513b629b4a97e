import { useId, type InputHTMLAttributes, type ReactNode, type TextareaHTMLAttributes } from 'react';

interface Words {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly fault?: string | undefined;
}

/** A labelled input with its hint and its fault, tied together for screen readers. */
export function Field({ label, hint, fault, ...input }: Words & InputHTMLAttributes<HTMLInputElement>): ReactNode {
  const id = useId();
  return (
    <Labelled id={id} label={label} hint={hint} fault={fault}>
      <input id={id} className="field" aria-invalid={fault !== undefined} aria-describedby={`${id}-hint`} {...input} />
    </Labelled>
  );
}

/** The same for text of several lines. */
export function AreaField({ label, hint, fault, className = '', ...area }: Words & TextareaHTMLAttributes<HTMLTextAreaElement>): ReactNode {
  const id = useId();
  return (
    <Labelled id={id} label={label} hint={hint} fault={fault}>
      <textarea id={id} className={`field ${className}`} aria-invalid={fault !== undefined} aria-describedby={`${id}-hint`} {...area} />
    </Labelled>
  );
}

function Labelled({ id, label, hint, fault, children }: Words & { readonly id: string; readonly children: ReactNode }): ReactNode {
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      {children}
      <div id={`${id}-hint`} className="mt-1 text-sm">
        {hint !== undefined && <p className="text-muted">{hint}</p>}
        {fault !== undefined && <p className="font-semibold text-thinned">{fault}</p>}
      </div>
    </div>
  );
}
