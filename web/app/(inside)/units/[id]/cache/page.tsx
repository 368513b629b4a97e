import { CacheForm } from '~/web/parts/plan/CacheForm';
import { planPage } from '~/web/server/planPage';

export const metadata = { title: 'Cache of a unit' };

export default planPage('reader', {
  title: (unit) => `Cache of ${unit}`,
  intro: () =>
    'Flash beside the pool that makes what is asked for often quick. What it holds of writes is nowhere else for a while: it is switched off and emptied before a drive of it comes out.',
  form: (props, also) => <CacheForm {...props} drawers={also.drawers} />,
});
