import { SAMPLE_SHEET } from '~/core/drive/sampleSheet';
import { readBenchStart } from '~/service/bench/readBenchStart';
import { readOrganisation } from '~/service/settings/readSettings';
import { mayAct } from '~/service/access/viewer';
import { BenchLoader } from '~/web/parts/bench/BenchLoader';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Layout bench' };

export default insidePage('reader', async ({ app, viewer, query, now }) => {
  const named = (name: string): string | null => (typeof query[name] === 'string' ? query[name] : null);
  const [{ currency }, start] = await Promise.all([
    readOrganisation(app),
    readBenchStart(app, now, named('kept'), named('unit')),
  ]);
  return <BenchLoader {...start} sample={SAMPLE_SHEET} currency={currency} mayStore={mayAct(viewer, 'keeper')} />;
});
