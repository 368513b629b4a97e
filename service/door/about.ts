import { isRefusal, type Refusal } from '../../core/value/refusal';
import type { Asked } from './operation';

/**
 * Operations about something their path or body names: `find` looks for it before anything else happens, and where it is
 * not there, its refusal is the answer.
 */
export function about<S extends object, N = unknown>(find: (asked: Asked<N>) => Promise<S | Refusal>) {
  return <B extends N, A>(does: (asked: Asked<B>, subject: S) => A | Promise<A>) =>
    async (asked: Asked<B>): Promise<A | Refusal> => {
      const subject = await find(asked);
      return isRefusal(subject) ? subject : does(asked, subject);
    };
}
