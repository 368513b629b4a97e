'use client';
import type { ReactNode } from 'react';
import { Dialog } from '~/web/parts/form/Dialog';
import { EVERYWHERE } from './places';

export function KeysDialog({ onClose }: { readonly onClose: () => void }): ReactNode {
  return (
    <Dialog open onOpenChange={(now) => !now && onClose()} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
        {EVERYWHERE.map(({ key, does }) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="rounded-[2px] border border-line px-2 font-mono uppercase">{key}</kbd>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
