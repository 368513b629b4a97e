'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { SeenCause } from '~/service/units/readShelf';
import { useSending } from '~/web/parts/form/useSending';
import { tell } from '~/web/parts/tell/tell';
import { Moment } from '~/web/parts/unit/Moment';

interface Props {
  readonly cause: SeenCause;
  /** What it is, for whoever hears the button read out. */
  readonly title: string;
  readonly maySay: boolean;
}

/** Who has seen a cause and looks after it; nobody is told of it again meanwhile. */
export function SeenBy({ cause: { id, changedAt, seenAt, seenBy }, title, maySay }: Props): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const say = async (isSeen: boolean): Promise<void> => {
    const answer = isSeen
      ? await run('POST /causes/{id}/seen', { id, body: { changedAt } })
      : await run('DELETE /causes/{id}/seen', { id });
    if (answer) tell(isSeen ? 'Seen: nobody is told again, unless it gets worse.' : 'Not seen: people are told again.');
    router.refresh();
  };
  return (
    <span className="flex flex-wrap items-center gap-x-2 text-sm text-muted">
      {seenAt !== null && (
        <span>
          Seen by {seenBy}, <Moment at={seenAt} relative />
        </span>
      )}
      {maySay && (
        <button
          type="button"
          className="min-h-9 text-action underline max-sm:min-h-11"
          disabled={busy}
          onClick={() => void say(seenAt === null)}
          aria-label={`${seenAt === null ? 'I look after it' : 'Not seen after all'}: ${title}`}
        >
          {seenAt === null ? 'I look after it' : 'Not seen after all'}
        </button>
      )}
      {fault && <span className="text-thinned">{fault.sentence}</span>}
    </span>
  );
}
