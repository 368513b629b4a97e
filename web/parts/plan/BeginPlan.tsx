'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { WishOf } from '~/core/plan/makers/makePlan';
import type { PlanJob } from '~/schemas/plan';
import { Button } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';

interface Props {
  readonly id: string;
  readonly version: number;
  readonly job: PlanJob;
  readonly wish: WishOf[PlanJob] | null;
  readonly isReady: boolean;
  readonly words?: string;
}

/** Begins a plan and opens it; says why when it cannot be begun. */
export function BeginPlan({ id, version, job, wish, isReady, words = 'Begin the plan' }: Props): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const begin = async (): Promise<void> => {
    if (wish === null) return;
    const answer = await run('POST /units/{id}/plans', { id, body: { expectedVersion: version, job, wish } });
    if (answer) router.push(`/units/${id}/plans/${answer.plan}`);
  };
  return (
    <div className="no-print grid gap-3">
      {fault && <Notice grave>{fault.sentence}</Notice>}
      <div>
        <Button look="main" className="min-h-11" disabled={busy || !isReady} onClick={() => void begin()}>
          {words}
        </Button>
      </div>
    </div>
  );
}
