import { ExtendForm } from '~/web/parts/plan/ExtendForm';
import { planPage } from '~/web/server/planPage';

export const metadata = { title: 'One more extension' };

export default planPage('reader', {
  title: (unit) => `One more extension for ${unit}`,
  intro: () =>
    'Cabled behind the last, given power before the head, its dial on a number of its own. Drives go in afterwards, by a plan of their own.',
  form: (props) => <ExtendForm {...props} />,
});
