'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { UnitEvent } from '~/core/unit/event';
import type { Hazard } from '~/core/unit/preview';
import { send } from '~/web/parts/form/send';

/** Something about to be recorded that must be heard first. */
export interface Pending {
  readonly unit: string;
  readonly version: number;
  readonly event: UnitEvent;
  readonly happenedAt: string | undefined;
  readonly hazards: readonly Hazard[];
  readonly sentence: string;
}

interface Wish {
  readonly unit: string;
  readonly event: UnitEvent;
  readonly sentence: string;
  readonly happenedAt?: string | undefined;
  /** The version the person looked at. */
  readonly version: number;
}

/**
 * Records one thing that happened: previews it, asks when it lowers the margin, stores it, and offers to take it back.
 * There is no other way from a screen to the ledger of a unit for a single entry.
 */
export function useRecord(onDone: () => void = () => undefined) {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [pending, setPending] = useState<Pending | null>(null);

  const store = async ({ unit, version, event, happenedAt, sentence }: Omit<Pending, 'hazards'>): Promise<void> => {
    setBusy(true);
    const sent = await send('POST', `/api/v1/units/${unit}/events`, { expectedVersion: version, event, ...(happenedAt === undefined ? {} : { happenedAt }) });
    setBusy(false);
    if (sent.kind === 'refused') {
      setFault(sent.sentence);
      return;
    }
    setPending(null);
    const act = String(sent.answer['act']);
    toast(`Recorded: ${sentence}`, {
      duration: 12_000,
      action: {
        label: 'Undo',
        onClick: () =>
          void send('POST', `/api/v1/acts/${act}/back`, { reason: 'taken back at once' }).then((undone) => {
            toast(undone.kind === 'done' ? 'Withdrawn. Both entries stay in the ledger.' : undone.sentence);
            router.refresh();
          }),
      },
    });
    router.refresh();
    onDone();
  };

  const record = async ({ unit, event, sentence, happenedAt, version }: Wish): Promise<void> => {
    setFault(null);
    setBusy(true);
    const seen = await send('POST', `/api/v1/units/${unit}/previews`, { event, ...(happenedAt === undefined ? {} : { happenedAt }) });
    setBusy(false);
    if (seen.kind === 'refused') {
      setFault(seen.sentence);
      return;
    }
    const hazards = seen.answer['hazards'] as readonly Hazard[];
    const wish = { unit, version, event, happenedAt, sentence };
    if (hazards.length > 0) setPending({ ...wish, hazards });
    else await store(wish);
  };

  return { busy, fault, pending, record, store, cancel: () => setPending(null), setFault };
}

export type Recorder = ReturnType<typeof useRecord>;
