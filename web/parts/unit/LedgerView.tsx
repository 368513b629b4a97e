import type { ReactNode } from 'react';
import { eventWords } from '~/core/record/eventWords';
import { enclosuresText } from '~/core/unit/enclosuresText';
import { baysOf, type UnitState } from '~/core/unit/state';
import type { App } from '~/service/app';
import { readLedger, type Together } from '~/service/units/readLedger';
import Link from '~/web/parts/frame/Link';
import { DataTable, type Column } from '~/web/parts/table/DataTable';
import { tableQueryOf } from '~/web/parts/table/tableQuery';
import { LEDGER_FILTERS } from './ledgerFilters';
import { LedgerWords } from './LedgerWords';
import { Moment } from './Moment';
import type { WrongEntry } from './Withdraw';
import { WithdrawLine } from './WithdrawLine';

interface LedgerLine {
  readonly seq: number;
  readonly happenedAt: string;
  readonly recordedAt: string;
  readonly recordedBy: string;
  readonly words: string;
  /** Why it does not count any more, where it does not. */
  readonly withdrawnFor: string | undefined;
  /** It with what goes with it when it is withdrawn; `null` where it cannot be. */
  readonly wrong: WrongEntry | null;
}

interface Props {
  readonly app: App;
  readonly id: string;
  readonly unit: UnitState;
  readonly mayRecord: boolean;
  readonly query: Readonly<Record<string, string | string[] | undefined>>;
}

/** Entries on a page, and as many of the newest as are looked through for words or put in another order. */
const PAGE = 40;
const MOST = 2000;

/** Entered this much after it happened, an entry says so. */
const LATE_MS = 36e5;

const COLUMNS: readonly Column<LedgerLine>[] = [
  {
    id: 'when',
    head: 'When',
    value: ({ happenedAt }) => happenedAt,
    cell: ({ happenedAt }) => (
      <span className="whitespace-nowrap text-muted max-sm:text-base">
        <Moment at={happenedAt} />
      </span>
    ),
  },
  {
    id: 'what',
    head: 'What',
    isWhole: true,
    value: ({ words }) => words,
    words: ({ words, withdrawnFor = '' }) => `${words} ${withdrawnFor}`,
    cell: ({ words, withdrawnFor, happenedAt, recordedAt }) => (
      <>
        <LedgerWords words={words} withdrawnFor={withdrawnFor} />
        {Date.parse(recordedAt) - Date.parse(happenedAt) > LATE_MS && (
          <span className="text-sm text-muted">
            {' '}
            entered <Moment at={recordedAt} />
          </span>
        )}
      </>
    ),
  },
  {
    id: 'by',
    head: 'Recorded by',
    value: ({ recordedBy }) => recordedBy,
    cell: ({ recordedBy }) => <span className="whitespace-nowrap text-muted">{recordedBy}</span>,
  },
];
const CORRECT: Column<LedgerLine> = {
  id: 'correct',
  head: 'Correct',
  isBare: true,
  value: () => null,
  cell: ({ wrong }) => wrong && <WithdrawLine wrong={wrong} />,
};

/** As many entries that go together are named: of an act over many drives each would name all others. */
const MOST_TOGETHER = 6;

function wrongOf(
  entry: Pick<WrongEntry, 'act' | 'seq' | 'words'>,
  together: readonly Together[],
  unit: string,
): WrongEntry {
  return {
    ...entry,
    together: together.slice(0, MOST_TOGETHER).map(({ words }) => words),
    more: Math.max(0, together.length - MOST_TOGETHER),
    isBeginning: entry.seq === 1 || together.some(({ id, seq }) => id === unit && seq === 1),
  };
}

/**
 * The ledger as sentences, newest first; what was wrong is taken back, with all that was recorded with it, and never
 * deleted.
 */
export async function LedgerView({ app, id, unit, mayRecord, query }: Props): Promise<ReactNode> {
  const filter = LEDGER_FILTERS.find((one) => one.id === query['only']);
  const { words, sort, from } = tableQueryOf(
    query,
    COLUMNS.map((column) => column.id),
  );
  const isPlain = words === '' && sort === null;
  const { rows, ofActs, total, withdrawn } = await readLedger(
    app,
    { id, state: unit },
    {
      from: isPlain ? from : 0,
      most: isPlain ? PAGE : MOST,
      kinds: filter?.kinds,
    },
  );
  const lines = rows.map(({ seq, act, happenedAt, recordedAt, recordedBy, event }): LedgerLine => ({
    seq,
    happenedAt,
    recordedAt,
    recordedBy,
    words: eventWords(event, unit),
    withdrawnFor: withdrawn.get(act),
    wrong:
      !mayRecord || event.kind === 'taken-back' || withdrawn.has(act)
        ? null
        : wrongOf(
            { act, seq, words: eventWords(event, unit) },
            (ofActs.get(act) ?? []).filter((one) => one.id !== id || one.seq !== seq),
            id,
          ),
  }));
  return (
    <section aria-label="Ledger">
      <div className="no-print mb-2 flex flex-wrap gap-x-3">
        {[{ id: '', words: 'All' }, ...LEDGER_FILTERS].map((one) => (
          <Link
            key={one.id}
            scroll={false}
            href={one.id === '' ? `/units/${id}` : `/units/${id}?only=${one.id}`}
            aria-current={(filter?.id ?? '') === one.id ? 'true' : undefined}
            className={`py-1 max-sm:py-2.5 ${(filter?.id ?? '') === one.id ? 'font-semibold' : 'text-action underline'}`}
          >
            {one.words}
          </Link>
        ))}
      </div>
      <DataTable
        label="Entries"
        path={`/units/${id}`}
        kept={filter ? { only: filter.id } : {}}
        query={query}
        columns={mayRecord ? [...COLUMNS, CORRECT] : COLUMNS}
        rows={lines}
        keyOf={({ seq }) => String(seq)}
        size={PAGE}
        {...(isPlain ? { total } : {})}
      />
      {!isPlain && total > MOST && (
        <p className="mt-2 text-muted">
          Looked through the newest {MOST} of {total} entries.
        </p>
      )}
      <p className="no-print mt-2 flex flex-wrap gap-x-4">
        <a
          href={`/bench?${new URLSearchParams({ unit: id, profile: unit.profile.id, bays: String(baysOf(unit).length), boxes: enclosuresText(unit.enclosures) }).toString()}`}
          className="text-action underline"
        >
          Take its drives to the bench
        </a>
        <a href={`/api/v1/units/${id}/drives.csv`} download className="text-action underline">
          Take the drives away as CSV
        </a>
      </p>
    </section>
  );
}
