import { SAMPLE_SHEET } from '~/core/drive/sampleSheet';
import { mayAct } from '~/service/viewer';
import { readOrganisation } from '~/service/readSettings';
import { readShelf } from '~/service/readShelf';
import { BenchLoader } from '~/web/parts/bench/BenchLoader';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Layout bench' };

export default insidePage('reader', async ({ app, viewer }) => {
  const [{ currency }, { units }] = await Promise.all([readOrganisation(app), readShelf(app)]);
  const places = [...new Set(units.map(({ state }) => state.place.site))].sort();
  return <BenchLoader profiles={[...app.profiles.values()]} sample={SAMPLE_SHEET} currency={currency} places={places} mayStore={mayAct(viewer, 'keeper')} />;
});
