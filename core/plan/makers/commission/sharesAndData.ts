import { formatBytes } from '../../../quantity/formatBytes';
import type { Commission } from './commission';

/** Large files over gigabit Ethernet, bytes/s (common practice). */
const GIGABIT_COPY = 111e6;

/** Shares, and what is copied in. @returns the step that made the shares */
export function sharesAndData({ wish, draft: { add, under } }: Commission, volume: string): string {
  under('Shares and data');
  const shares = add({
    id: 'shares',
    title: 'Make the shares and who may use them; a recycle area only where it is wanted',
    why: 'A recycle area keeps deleted files, eats space and falsifies comparisons.',
    after: [volume],
  });
  if (wish.copyBytes !== undefined && wish.copyBytes > 0) {
    const copied = add({
      id: 'copy',
      kind: 'wait',
      title: `Copy ${formatBytes(wish.copyBytes)} in`,
      why: `About ${hoursWords(wish.copyBytes / GIGABIT_COPY / 3600)} for large files over gigabit (111 MB/s, common practice); many small files take several times that. Firmware is not updated meanwhile.`,
      hours: wish.copyBytes / GIGABIT_COPY / 3600,
      after: [shares],
    });
    add({ id: 'compare', title: 'Compare number and size of files at both ends', why: 'A copy that stopped half-way looks like a copy.', after: [copied] });
  }
  return shares;
}

function hoursWords(hours: number): string {
  const minutes = Math.max(1, Math.round(hours * 60));
  return minutes < 60 ? `${String(minutes)} min` : `${String(Math.floor(minutes / 60))} h ${String(minutes % 60)} min`;
}
