import { ReplaceForm } from '~/web/parts/plan/ReplaceForm';
import { planPage } from '~/web/server/planPage';

export const metadata = { title: 'Replace a drive' };

export default planPage('reader', {
  title: (unit) => `Replace a drive of ${unit}`,
  intro: ({ profile }) =>
    `The plan is made for this bay, this pool and ${profile.name}. Nothing is recorded until you begin. Touch no bay yet: a beep means thinned, not broken.`,
  form: (props, { drawers, serial }) => <ReplaceForm {...props} drawers={drawers} serial={serial} />,
});
