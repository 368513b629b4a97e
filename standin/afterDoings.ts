import { isRefusal } from '../core/value/refusal';
import { done, type Doing, type Truth } from './truth';

/** A unit after some things were done to it; thrown where one of them cannot be. For tests. */
export function afterDoings(truth: Truth, ...doings: Doing[]): Truth {
  return doings.reduce((now, doing) => {
    const next = done(now, doing);
    if (isRefusal(next)) throw new Error(next.sentence);
    return next;
  }, truth);
}
