import type { Band } from '../layout/band';
import { marginOf } from './marginOf';

/**
 * Whose data is gone with these members missing: all of a pool once one band has lost more than it may, or exactly the
 * missing drives of such a band where each drive keeps its own files. A dedicated parity drive (the first of its band)
 * holds no files of its own. Empty when nothing is lost.
 *
 * @param loses what is lost beyond what it survives
 */
export function membersLost(bands: readonly Band[], loses: 'pool' | 'drives', missing: ReadonlySet<string>): string[] {
  const gone = bands.filter((band) => marginOf([band], missing) < 0);
  if (gone.length === 0) return [];
  const lost =
    loses === 'pool'
      ? bands.flatMap(({ members }) => members)
      : gone.flatMap((band) => filesOf(band).filter((member) => missing.has(member)));
  return [...new Set(lost)];
}

function filesOf({ kind, members, redundancy }: Band): readonly string[] {
  return kind === 'dedicated' ? members.slice(redundancy) : members;
}
