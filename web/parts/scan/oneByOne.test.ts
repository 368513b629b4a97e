import { describe, expect, it } from '@jest/globals';
import { oneByOne, type Worked } from './oneByOne';

/** A worker that is let go by hand, one at a time. */
function byHand() {
  const seen: string[] = [];
  const open: ((worked: Worked) => void)[] = [];
  return {
    seen,
    work: (one: string): Promise<Worked> => {
      seen.push(one);
      return new Promise((done) => open.push(done));
    },
    async end(worked: Worked): Promise<void> {
      open.shift()?.(worked);
      await new Promise((turn) => setTimeout(turn, 0));
    },
  };
}

describe('a line that is worked one by one', () => {
  it('keeps what comes while one is worked', async () => {
    const line = oneByOne<string>();
    const hand = byHand();
    line.add(['a']);
    void line.run(hand.work);
    line.add(['b', 'c']);
    void line.run(hand.work);
    expect(hand.seen).toEqual(['a']);
    expect(line.waiting()).toBe(3);
    await hand.end('done');
    await hand.end('done');
    await hand.end('done');
    expect(hand.seen).toEqual(['a', 'b', 'c']);
    expect(line.waiting()).toBe(0);
  });

  it('stops at one that needs a person, with what came meanwhile, and goes on behind its answer', async () => {
    const line = oneByOne<string>();
    const hand = byHand();
    line.add(['a', 'b']);
    void line.run(hand.work);
    line.add(['c']);
    await hand.end('held');
    line.add(['d']);
    await line.run(hand.work);
    expect(hand.seen).toEqual(['a']);
    expect(line.waiting()).toBe(3);
    line.release('a, as it is meant');
    void line.run(hand.work);
    for (const _ of 'abcd') await hand.end('done');
    expect(hand.seen).toEqual(['a', 'a, as it is meant', 'b', 'c', 'd']);
  });

  it('is not stuck after a fault', async () => {
    const line = oneByOne<string>();
    line.add(['a']);
    await expect(line.run(() => Promise.reject(new Error('gone')))).rejects.toThrow('gone');
    const seen: string[] = [];
    await line.run((one) => (seen.push(one), Promise.resolve('done')));
    expect(seen).toEqual(['a']);
  });
});
