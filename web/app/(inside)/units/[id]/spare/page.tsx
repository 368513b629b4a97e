import { SpareForm } from '~/web/parts/plan/SpareForm';
import { planPage } from '~/web/server/planPage';

export const metadata = { title: 'A spare in the unit' };

export default planPage('reader', {
  title: (unit) => `A spare in ${unit}`,
  intro: () =>
    'It waits in a free bay and steps in by itself when a member goes: the rebuild begins in the night, not on Monday. It ages there too.',
  form: (props, also) => <SpareForm {...props} drawers={also.drawers} first={also.first} />,
});
