'use client';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';
import { ShownOnce } from '~/web/parts/settings/ShownOnce';
import { Moment } from '~/web/parts/unit/Moment';

/** The schedule as a calendar of one's own, under an address nobody else knows. */
export function CalendarFeed({ madeAt }: { readonly madeAt: string | null }): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const [address, setAddress] = useState<string | null>(null);
  const make = async (): Promise<void> => {
    const answer = await run('POST /calendar-feed', {});
    if (!answer) return;
    setAddress(location.origin + answer.path);
    router.refresh();
  };
  const close = async (): Promise<void> => {
    if (!(await run('DELETE /calendar-feed', {}))) return;
    setAddress(null);
    router.refresh();
  };
  return (
    <div className="no-print grid gap-2">
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {address !== null && (
        <ShownOnce title="The address of your calendar" text={address} onDone={() => setAddress(null)} />
      )}
      <p className="flex flex-wrap items-center gap-3 text-muted">
        {madeAt === null ? (
          'Have it in your own calendar, under a secret address.'
        ) : (
          <span>
            Your calendar has its own address, made <Moment at={madeAt} relative />.
          </span>
        )}
        <Button disabled={busy} onClick={() => void make()}>
          {madeAt === null ? 'Make a calendar address' : 'Make a new address'}
        </Button>
        {madeAt !== null && (
          <Button disabled={busy} onClick={() => void close()}>
            Close it
          </Button>
        )}
      </p>
    </div>
  );
}
