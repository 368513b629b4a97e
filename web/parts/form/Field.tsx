import { useId, type InputHTMLAttributes, type ReactNode } from 'react';

/** A labelled input with its hint and its fault, tied together for screen readers. */
export function Field({
  label,
  hint,
  fault,
  ...input
}: { readonly label: string; readonly hint?: string; readonly fault?: string | undefined } & InputHTMLAttributes<HTMLInputElement>): ReactNode {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-1 block font-semibold">
        {label}
      </label>
      <input id={id} className="field" aria-invalid={fault !== undefined} aria-describedby={`${id}-hint`} {...input} />
      <div id={`${id}-hint`} className="mt-1 text-sm">
        {hint !== undefined && <p className="text-muted">{hint}</p>}
        {fault !== undefined && <p className="font-semibold text-thinned">{fault}</p>}
      </div>
    </div>
  );
}
