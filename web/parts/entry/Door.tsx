import type { ReactNode } from 'react';

/** The plain page in front of the shelf: sign-in, first start, choosing a password. */
export function Door({ title, children }: { readonly title: string; readonly children: ReactNode }): ReactNode {
  return (
    <main className="flex min-h-dvh flex-col items-center justify-center p-4">
      <div className="w-full max-w-[400px]">
        <div className="px-1 text-xl font-bold">Patient Shelf</div>
        <div className="board mt-2 h-2" />
        <div className="border border-t-0 border-line bg-surface p-6">
          <h1 className="mb-4 text-xl">{title}</h1>
          {children}
        </div>
      </div>
    </main>
  );
}
