'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Scanned, ScanJudgement, ScanKnown } from '~/core/scan/judgeScan';
import type { ScanList, ScansRead } from '~/core/scan/scanList';
import { scansTyped } from '~/core/scan/scansTyped';
import { whichSerial } from '~/core/drive/whichSerial';
import { api } from '~/web/parts/form/api';
import { NO_ANSWER } from '~/web/parts/form/send';
import { oneByOne, type Worked } from './oneByOne';

/** A serial that was read, with what a person said of it. */
interface Typed {
  readonly typed: string;
  /** The size that was read off it, where one was. */
  readonly drive?: SizeRead;
  readonly not: readonly string[];
}

export type SizeRead = NonNullable<Scanned['drive']>;

interface Given {
  /** The unit and, where it is read for one, the step of a plan. */
  readonly of: { readonly unit: string; readonly plan?: string; readonly step?: string };
  readonly list: ScanList;
  /** The bay the hand is at, chosen by hand. */
  readonly aimed: string | null;
  /** What was read so far, at this moment. */
  readonly readNow: () => ScansRead;
  /** What is recorded of the drives that may be taken in hand: for a browser without a network. */
  readonly loose: readonly ScanKnown[];
  /** It goes into this bay; `instead` of the drive that is expected there. False where something about it has to be said first. */
  readonly onTaken: (
    judged: ScanJudgement,
    bay: string,
    read: { readonly instead?: string; readonly drive?: SizeRead },
  ) => boolean | Promise<boolean>;
}

/**
 * Scans as they come: each is judged before the next, and one that needs a person holds up those read after it. The
 * record judges; without a network the same rule does, with what is known here.
 */
export function useScans({ of, list, aimed, readNow, loose, onTaken }: Given) {
  const [answer, setAnswer] = useState<ScanJudgement | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [waiting, setWaiting] = useState(0);
  const [held, setHeld] = useState<Typed | null>(null);
  const [line] = useState(() => oneByOne<Typed>());
  const latest = useRef({ list, aimed });
  useEffect(() => {
    latest.current = { list, aimed };
  }, [list, aimed]);

  const judged = useCallback(
    async ({ typed, drive, not }: Typed): Promise<ScanJudgement | string> => {
      const { list: now, aimed: bay } = latest.current;
      const read = readNow();
      const sent = await api('POST /scans/judge', {
        body: {
          ...of,
          serial: typed,
          ...(drive === undefined ? {} : { drive }),
          read: Object.entries(read).map(([at, serial]) => ({ bay: at, serial })),
          ...(bay === null ? {} : { bay }),
          ...(not.length === 0 ? {} : { not }),
        },
      });
      if (sent.kind === 'done') return sent.answer;
      if (sent.code !== NO_ANSWER) return sent.sentence;
      const { judgeScan } = await import('~/core/scan/judgeScan');
      const meant = whichSerial(
        typed,
        loose.map(({ serial }) => serial),
      );
      return judgeScan(now, {
        typed,
        ...(bay === null ? {} : { bay }),
        read,
        ...(drive === undefined ? {} : { drive }),
        known: loose.find(({ serial }) => serial === meant),
        near: loose.map(({ serial }) => serial),
        not,
        at: new Date().toISOString(),
      });
    },
    [of, readNow, loose],
  );

  const judgeOne = useCallback(
    async (one: Typed): Promise<Worked> => {
      const seen = await judged(one).catch(() => 'It could not be judged here. Read it again.');
      setWaiting(line.waiting() - 1);
      setFault(typeof seen === 'string' ? seen : null);
      if (typeof seen === 'string') return 'done';
      if (goesIn(seen)) {
        setAnswer((await onTaken(seen, seen.bay, sizeOf(one))) ? seen : null);
        return 'done';
      }
      setAnswer(seen);
      if (isReadTwice(seen, readNow())) return 'done';
      setHeld(one);
      return 'held';
    },
    [judged, line, onTaken, readNow],
  );

  const goOn = (first?: Typed): void => {
    line.release(first);
    setHeld(null);
    setAnswer(null);
    void line.run(judgeOne);
  };

  return {
    answer,
    fault,
    /** Read after the one that needs a person, and not judged yet. */
    waiting,
    /** True while a scan needs a person. */
    isHeld: held !== null,
    /** One serial or several; with the size that was read off each. */
    scan: (text: string, drive?: SizeRead): void => {
      const known = [...list.bays.flatMap(({ expects }) => expects ?? []), ...list.anyOf];
      const size = drive === undefined ? {} : { drive };
      line.add(scansTyped(text, known).map((typed) => ({ typed, ...size, not: [] })));
      setWaiting(line.waiting());
      void line.run(judgeOne);
    },
    /** It is put aside, or back where it belongs. */
    putAside: () => goOn(),
    /** It goes in instead of the drive that is expected there, or although something speaks against it. */
    take: (bay: string, instead?: string): void => {
      const read = { ...sizeOf(held), ...(instead === undefined ? {} : { instead }) };
      if (answer) void Promise.resolve(onTaken(answer, bay, read)).then(() => goOn());
    },
    /** It is this one after all; or none of those it may be. */
    isOne: (serial: string | null): void => {
      if (!held) return;
      goOn(
        serial === null
          ? { ...held, not: [...held.not, ...(answer?.alike ?? [])] }
          : { ...held, typed: serial, not: [] },
      );
    },
    forget: (): void => (setAnswer(null), setFault(null)),
  };
}

function sizeOf(one: Typed | null): { readonly drive?: SizeRead } {
  return one?.drive === undefined ? {} : { drive: one.drive };
}

/** It has its bay, and nothing speaks against it. */
function goesIn(one: ScanJudgement): one is ScanJudgement & { readonly bay: string } {
  return (
    one.bay !== undefined &&
    one.stop === undefined &&
    one.insteadOf === undefined &&
    (one.verdict === 'here' ||
      (one.verdict === 'other-bay' && one.alike === undefined) ||
      one.verdict === 'stored' ||
      one.verdict === 'unknown')
  );
}

/** A scanner that fires twice: told, and nobody has to answer. */
function isReadTwice({ verdict, bay }: ScanJudgement, read: ScansRead): boolean {
  return verdict === 'already-in' && bay !== undefined && Object.hasOwn(read, bay);
}
