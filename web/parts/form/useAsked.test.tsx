/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import type { Sent } from './send';
import { useAsked } from './useAsked';

/** What was asked, and the way to answer it when the test wants. */
interface Open {
  readonly question: string;
  readonly signal: AbortSignal;
  readonly answer: (sent: Sent<string>) => void;
}

describe('useAsked', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());

  const asking = (first: string | null) => {
    const open: Open[] = [];
    const answers: string[] = [];
    const hook = renderHook(
      ({ question }: { readonly question: string | null }) =>
        useAsked<string>(
          question,
          (signal) => new Promise((answer) => open.push({ question: question ?? '', signal, answer })),
          { onAnswer: (answer) => answers.push(answer) },
        ),
      { initialProps: { question: first } },
    );
    const pause = (): Promise<void> => act(() => jest.advanceTimersByTimeAsync(200));
    const answer = (i: number, sent: Sent<string>): Promise<void> => act(() => Promise.resolve(open[i]?.answer(sent)));
    return { ...hook, open, answers, pause, answer };
  };
  const done = (answer: string): Sent<string> => ({ kind: 'done', answer });

  it('asks once for what stands there after a pause, not for every letter', async () => {
    const { rerender, open, pause } = asking('a');
    rerender({ question: 'ab' });
    rerender({ question: 'abc' });
    await pause();
    expect(open.map(({ question }) => question)).toEqual(['abc']);
  });

  it('never hands out the answer to an older question, and cancels it', async () => {
    const { result, rerender, open, answers, pause, answer } = asking('old');
    await pause();
    rerender({ question: 'new' });
    await pause();
    expect(open[0]?.signal.aborted).toBe(true);
    await answer(1, done('to new'));
    // The old one comes last, as slow answers do.
    await answer(0, done('to old'));
    expect([result.current.answer, answers]).toEqual(['to new', ['to new']]);
  });

  it('keeps the last answer in view while the next is asked, and says that it asks', async () => {
    const { result, rerender, pause, answer } = asking('one');
    expect([result.current.isAsking, result.current.answer]).toEqual([true, null]);
    await pause();
    await answer(0, done('first'));
    rerender({ question: 'two' });
    expect([result.current.isAsking, result.current.answer, result.current.last]).toEqual([true, null, 'first']);
    await pause();
    await answer(1, { kind: 'refused', code: 'no', sentence: 'No.', fields: {}, answer: {} });
    expect([result.current.refusal?.sentence, result.current.last]).toEqual(['No.', 'first']);
  });

  it('asks nothing where there is no question, nor after it is gone', async () => {
    const { rerender, unmount, open, pause } = asking(null);
    await pause();
    rerender({ question: 'late' });
    unmount();
    await pause();
    expect(open).toEqual([]);
  });
});
