import { LevelForm } from '~/web/parts/plan/LevelForm';
import { planPage } from '~/web/server/planPage';

export const metadata = { title: 'Change the level' };

export default planPage('reader', {
  title: (unit) => `Another level for a pool of ${unit}`,
  intro: () =>
    'The pool is written anew and keeps its data, for hours to days; its new margin counts when that is done. The copy is proven before, for it is all there is if it stops half-way.',
  form: (props, { first }) => <LevelForm {...props} first={first} />,
});
