'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { StatedUnitEvent } from '~/schemas/unitEvent';
import type { Hazard } from '~/core/unit/preview';
import { api } from '~/web/parts/form/api';
import { wayOn, type WayOn } from '~/web/parts/way/wayOn';
import { tell } from '~/web/parts/tell/tell';

/** Something about to be recorded that must be heard first. */
export interface Pending {
  readonly unit: string;
  readonly version: number;
  readonly event: StatedUnitEvent;
  readonly happenedAt: string | undefined;
  readonly hazards: readonly Hazard[];
  readonly sentence: string;
}

interface Wish {
  readonly unit: string;
  readonly event: StatedUnitEvent;
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
  /** Where a refusal leads on. */
  const [way, setWay] = useState<WayOn | null>(null);
  const [pending, setPending] = useState<Pending | null>(null);

  const store = async ({
    unit,
    version,
    event,
    happenedAt,
    sentence,
  }: Omit<Pending, 'hazards'>): Promise<string | null> => {
    setBusy(true);
    const sent = await api('POST /units/{id}/events', {
      id: unit,
      body: { expectedVersion: version, event, ...(happenedAt === undefined ? {} : { happenedAt }) },
    });
    setBusy(false);
    if (sent.kind === 'refused') {
      setFault(sent.sentence);
      setWay(wayOn(unit, sent.code));
      return sent.sentence;
    }
    setPending(null);
    tell(`Recorded: ${sentence}`, { act: sent.answer.act });
    router.refresh();
    onDone();
    return null;
  };

  /** Records it, or asks first: why not, where it was refused. */
  const record = async ({ unit, event, sentence, happenedAt, version }: Wish): Promise<string | null> => {
    setFault(null);
    setWay(null);
    setBusy(true);
    const seen = await api('POST /units/{id}/previews', {
      id: unit,
      body: { event, ...(happenedAt === undefined ? {} : { happenedAt }) },
    });
    setBusy(false);
    if (seen.kind === 'refused') {
      setFault(seen.sentence);
      setWay(wayOn(unit, seen.code));
      return seen.sentence;
    }
    const { hazards } = seen.answer;
    const wish = { unit, version, event, happenedAt, sentence };
    if (hazards.length === 0) return store(wish);
    setPending({ ...wish, hazards });
    return null;
  };

  return { busy, fault, way, pending, record, store, cancel: () => setPending(null), setFault };
}

export type Recorder = ReturnType<typeof useRecord>;
