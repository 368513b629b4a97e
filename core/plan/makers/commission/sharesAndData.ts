import type { CopyLink } from '../../../../schemas/record';
import { planLayout } from '../../../layout/planLayout';
import { formatBytes } from '../../../quantity/formatBytes';
import { formatRate } from '../../../quantity/formatRate';
import { hoursWords } from '../../../quantity/hoursWords';
import { speedOfLayout } from '../../../speed/speedOfLayout';
import { oneDrive, overEthernet } from '../../../transfer/transferTime';
import type { Commission } from './commission';

/** Shares, and what is copied in. @returns the step that made the shares */
export function sharesAndData(commission: Commission, pool: string, volume: string): string {
  const { add, under } = commission.draft;
  const { copyBytes = 0, copyOver = '1' } = commission.wish;
  under('Shares and data');
  const shares = add({
    id: 'shares',
    title: 'Make the shares and who may use them; a recycle area only where it is wanted',
    why: 'A recycle area keeps deleted files, eats space and falsifies comparisons.',
    after: [volume],
  });
  if (copyBytes > 0) {
    const rate = copyRate(commission, copyOver);
    const begun = add({
      id: 'copy-start',
      kind: 'act',
      title: `Begin copying ${formatBytes(copyBytes)} in ${OVER[copyOver]}`,
      why: 'Leave the source as it is until both ends were compared. Firmware is not updated meanwhile.',
      does: [{ kind: 'start-job', task: 'copy', pool }],
      after: [shares],
    });
    const copied = add({
      id: 'copy',
      kind: 'wait',
      title: `Wait until all ${formatBytes(copyBytes)} are in`,
      why: `About ${hoursWords(copyBytes / rate / 3600)} for large files (${formatRate(rate)}, common practice); many small files take several times that.`,
      hours: copyBytes / rate / 3600,
      does: [{ kind: 'finish-job', task: 'copy', pool, bytes: copyBytes }],
      after: [begun],
    });
    add({
      id: 'compare',
      title: 'Compare number and size of files at both ends',
      why: 'A copy that stopped half-way looks like a copy.',
      after: [copied],
    });
  }
  return shares;
}

const OVER: Readonly<Record<CopyLink, string>> = {
  '1': 'over gigabit Ethernet',
  '2.5': 'over 2.5 gigabit Ethernet',
  '10': 'over 10 gigabit Ethernet',
  cable: 'from a drive on a cable',
};

/** What large files come in with, bytes/s: the least of what they come over and what the pool writes. */
function copyRate({ unit, wish, all }: Commission, over: CopyLink): number {
  const { pool } = wish;
  // A cable is faster than the one drive behind it.
  const { bytesPerSecond: link } = over === 'cable' ? oneDrive('source', 'hard-disk') : overEthernet(Number(over));
  if (!pool) return link;
  const layout = planLayout(unit.profile, pool.scheme, all, pool.spares ?? 0, pool.groupWidth);
  const { write } = speedOfLayout(
    layout.bands,
    new Map(all.map(({ bay, media = 'hard-disk' }) => [bay, { media }])),
    unit.profile,
  );
  return write > 0 ? Math.min(link, write) : link;
}
