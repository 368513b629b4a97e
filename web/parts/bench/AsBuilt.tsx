import type { ReactNode } from 'react';
import type { Appraisal } from '~/core/appraisal/appraise';
import type { Layout } from '~/core/layout/layout';
import { layoutName } from '~/core/layout/layoutName';
import { formatBytes } from '~/core/quantity/formatBytes';
import { Notice } from '~/web/parts/form/Notice';

/** What a unit's pool is today: built over the years, not planned from its drives as they are. */
export interface BuiltPool {
  readonly unit: string;
  readonly scheme: Layout['scheme'];
  readonly groupWidth?: number;
  readonly usableBytes: number;
  /** Bytes in use, as last read; `null` when never read. */
  readonly usedBytes: number | null;
}

/** Gigabit's payload; what copying everything off and back takes at best. */
const BYTES_PER_HOUR = 111e6 * 3600;

/** The pool as it was built beside what the same drives would make from scratch, and what starting over wins and costs. */
export function AsBuilt({ built, name, current }: { readonly built: BuiltPool; readonly name: string; readonly current: Appraisal }): ReactNode {
  const won = current.layout.usableBytes - built.usableBytes;
  const copied = built.usedBytes ?? built.usableBytes;
  return (
    <Notice title={`${name} today: ${layoutName(built)}, ${formatBytes(built.usableBytes, 'decimal', 2)} usable, as it was built`}>
      <p>
        The drives below would make {formatBytes(current.layout.usableBytes, 'decimal', 2)} from scratch as {layoutName(current.layout)}:{' '}
        {won === 0 ? 'the same space' : won > 0 ? `${formatBytes(won, 'decimal', 2)} more` : `${formatBytes(-won, 'decimal', 2)} less`}. Starting over erases
        the pool; copying {formatBytes(copied)} off and back takes at least {Math.ceil((2 * copied) / BYTES_PER_HOUR)} h on gigabit, and another proven copy
        must exist first.
      </p>
    </Notice>
  );
}
