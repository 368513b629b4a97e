import { GrowForm } from '~/web/parts/plan/GrowForm';
import { planPage } from '~/web/server/planPage';

export const metadata = { title: 'Add drives' };

export default planPage('reader', {
  title: (unit) => `Add drives to ${unit}`,
  intro: () =>
    'Into free bays; nothing is pulled, and the pool is never thinner on the way. What is added is erased, and never comes out again but by a rebuild.',
  form: (props, { first, drawers }) => <GrowForm {...props} first={first} drawers={drawers} />,
});
