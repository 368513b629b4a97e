import type { ReactNode } from 'react';

export interface Words {
  readonly label: string;
  readonly hint?: ReactNode;
  readonly fault?: string | undefined;
}

/** A label over a field, with its hint and its fault below, tied to it by `id` and `${id}-hint` for screen readers. */
export function Labelled({
  id,
  labelFor = id,
  label,
  hint,
  fault,
  children,
}: Words & { readonly id: string; readonly labelFor?: string; readonly children: ReactNode }): ReactNode {
  return (
    <div className="min-w-0">
      <label id={`${id}-label`} htmlFor={labelFor} className="mb-1 block font-semibold">
        {label}
      </label>
      {children}
      <UnderField id={id} hint={hint} fault={fault} />
    </div>
  );
}

/** What stands below a field. */
export function UnderField({ id, hint, fault }: Omit<Words, 'label'> & { readonly id: string }): ReactNode {
  return (
    <div id={`${id}-hint`} className="mt-1 text-sm">
      {hint !== undefined && <div className="text-muted">{hint}</div>}
      {fault !== undefined && <p className="font-semibold text-thinned">{fault}</p>}
    </div>
  );
}
