import { SCHEMES } from '../../schemas/scheme';

export { SCHEMES };
export type Scheme = (typeof SCHEMES)[number];

/**
 * What a scheme is by arithmetic alone, whoever builds it. `name` is the plain name first, the number after.
 * `fewest` counts members, spares already off. `redundancy` is how many members may fail whichever they are; `null`
 * where it depends on the number of members (a mirror of n survives n − 1).
 */
export interface SchemeFacts {
  readonly kind: 'scheme-facts';
  readonly name: string;
  readonly fewest: number;
  readonly even: boolean;
  readonly redundancy: number | null;
  readonly isGrouped: boolean;
  /**
   * What a built one is made of, by which it grows: `one` band over all members; `pairs` or `groups` side by side; each
   * drive `own` its bytes; bands `cut` at sizes; `dedicated` parity over data drives.
   */
  readonly built: 'one' | 'pairs' | 'groups' | 'own' | 'cut' | 'dedicated';
  /** What is lost when more fails than it survives: the whole pool, or the failed drives' own files. */
  readonly loses: 'pool' | 'drives';
  /** What it is good and bad for, in one sentence. */
  readonly sentence: string;
}

const facts = (
  name: string,
  fewest: number,
  redundancy: number | null,
  sentence: string,
  more: Partial<Pick<SchemeFacts, 'even' | 'isGrouped' | 'loses' | 'built'>> = {},
): SchemeFacts =>
  Object.freeze({
    kind: 'scheme-facts',
    name,
    fewest,
    redundancy,
    sentence,
    even: false,
    isGrouped: false,
    loses: 'pool',
    built: 'one',
    ...more,
  });

/** Fewest drives: common practice, and for parity and mirrors the SNIA Dictionary's definitions of the levels. */
const FACTS: Readonly<Record<Scheme, SchemeFacts>> = Object.freeze({
  separate: facts(
    'Separate drives',
    1,
    0,
    'Each drive on its own: nothing is wasted, and a drive that dies takes its own files with it.',
    {
      loses: 'drives',
      built: 'own',
    },
  ),
  span: facts(
    'Span (joined end to end)',
    2,
    0,
    'All space in one piece. Plan for one dead drive to take everything; a recovery firm may get some files back.',
    { built: 'own' },
  ),
  stripe: facts('Striping (level 0)', 2, 0, 'Fast and without any protection: one dead drive takes everything.'),
  mirror: facts('Mirror (level 1)', 2, null, 'Every drive holds a full copy: simple, quick to rebuild, dear in space.'),
  'striped-mirrors': facts(
    'Striped mirrors (level 10)',
    4,
    1,
    'Pairs side by side: quick for many small writes and quick to rebuild; half the space is copies.',
    { even: true, built: 'pairs' },
  ),
  'parity-1': facts(
    'Single parity (level 5)',
    3,
    1,
    'Good for large files and space; small writes are slow, and during a long rebuild it can lose none.',
  ),
  'parity-2': facts(
    'Double parity (level 6)',
    4,
    2,
    'Survives any two, also during a rebuild of one; small writes are slower still.',
  ),
  'parity-1-groups': facts(
    'Groups of single parity (level 50)',
    6,
    1,
    'Parity groups side by side: shorter rebuilds than one wide group; two failures in one group lose everything.',
    { isGrouped: true, built: 'groups' },
  ),
  'parity-2-groups': facts(
    'Groups of double parity (level 60)',
    8,
    2,
    'For many bays: each group survives any two, and grows by whole groups.',
    {
      isGrouped: true,
      built: 'groups',
    },
  ),
  'mixed-1': facts(
    'Mixed-drive pool, survives one',
    2,
    1,
    'Unequal drives with little waste: cut in bands, each band survives one failure.',
    { built: 'cut' },
  ),
  'mixed-2': facts(
    'Mixed-drive pool, survives two',
    3,
    2,
    'Unequal drives with little waste: each band survives two failures.',
    { built: 'cut' },
  ),
  'dedicated-1': facts(
    'Separate drives + one parity drive',
    2,
    1,
    'Each drive keeps its own files; one parity drive guards them all. Beyond one failure only the failed drives’ files are lost.',
    { loses: 'drives', built: 'dedicated' },
  ),
  'dedicated-2': facts(
    'Separate drives + two parity drives',
    3,
    2,
    'Each drive keeps its own files; two parity drives guard them. Beyond two failures only the failed drives’ files are lost.',
    { loses: 'drives', built: 'dedicated' },
  ),
});

/** Where practitioners disagree about a scheme: both sides, and what is done here. */
const SCHOOLS: Readonly<Partial<Record<Scheme, string>>> = Object.freeze({
  span: 'Some hold that the other drives’ files may be recoverable, others that all is lost. Planned here as lost.',
  mirror: 'Some make n copies of which n − 1 may fail, others only pairs. Both are here: this, and striped mirrors.',
  'striped-mirrors':
    'On four bays some take this for speed and simple rebuilds, others parity for space. The figures of both are in the table.',
  'parity-1':
    'Some call it the best of both worlds, others too thin on large drives. The risk is shown in numbers; what must survive decides.',
  'parity-2':
    'Some say “fast like striping”, others “for space, not for speed”. Reads are fast, small writes slow: the figures show both.',
  'mixed-1':
    'Three schools for unequal drives: this, dedicated parity over separate drives, or equal groups only. The family decides which are offered.',
  'dedicated-1':
    'Three schools for unequal drives: this, a banded mixed pool, or equal groups only. The family decides which are offered.',
});

/** The disagreement about a scheme in a sentence or two; `undefined` where there is none worth the words. */
export function schoolsOf(scheme: Scheme): string | undefined {
  return SCHOOLS[scheme];
}

/** The facts of a scheme; there is one set for every scheme. */
export function factsOf(scheme: Scheme): SchemeFacts {
  return FACTS[scheme];
}

/** Fewest members of one parity group: three for single, four for double parity. */
export function fewestPerGroup(redundancy: number): number {
  return redundancy + 2;
}

/** A scheme's name within a sentence: "single parity (level 5)". */
export function schemeWords(scheme: Scheme): string {
  const { name } = factsOf(scheme);
  return `${name.charAt(0).toLowerCase()}${name.slice(1)}`;
}
