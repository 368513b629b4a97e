import type { CopyGiven } from '~/core/plan/engine/copyGiven';

/** What a person has said so far of the copy a plan leans on. */
export interface CopyTyped {
  readonly has: 'copy' | 'none' | '';
  readonly where: string;
  readonly ranOn: string;
  readonly keeps: 'versions' | 'mirror' | '';
  readonly offSite: boolean;
  readonly file: string;
  readonly fetchedOn: string;
  readonly opened: 'yes' | 'no' | '';
  readonly why: string;
}

export const NOTHING_TYPED: CopyTyped = {
  has: '',
  where: '',
  ranOn: '',
  keeps: '',
  offSite: false,
  file: '',
  fetchedOn: '',
  opened: '',
  why: '',
};

/** The evidence of it; `null` while something it cannot do without is not said. */
export function copyGivenOf(typed: CopyTyped): CopyGiven | null {
  const { has, where, ranOn, keeps, offSite, file, fetchedOn, opened, why } = typed;
  if (has === 'none') return { kind: 'copy', none: why.trim() === '' ? {} : { why: why.trim() } };
  if (has !== 'copy' || where.trim() === '' || keeps === '') return null;
  const isFetched = file.trim() !== '';
  if (isFetched && (fetchedOn === '' || opened === '')) return null;
  return {
    kind: 'copy',
    copy: { where: where.trim(), keeps, offSite, ...(ranOn === '' ? {} : { ranOn }) },
    ...(isFetched ? { fetched: { file: file.trim(), on: fetchedOn, opened: opened === 'yes' } } : {}),
  };
}
