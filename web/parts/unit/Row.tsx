import type { ReactNode } from 'react';

/** One name and its value in a list of facts. */
export function Row({ name, children }: { readonly name: string; readonly children: ReactNode }): ReactNode {
  return (
    <>
      <dt className="text-muted">{name}</dt>
      <dd className="min-w-0 break-words">{children}</dd>
    </>
  );
}
