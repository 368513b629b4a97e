import { RetirePlanForm } from '~/web/parts/plan/RetirePlanForm';
import { planPage } from '~/web/server/planPage';

export const metadata = { title: 'Retire a unit' };

export default planPage('reader', {
  title: (unit) => `Retire ${unit}`,
  intro: () =>
    'What it holds is proven to be elsewhere, its pools are closed, each drive comes out by its serial and is wiped and accounted for; its name and address are free for another.',
  form: (props) => <RetirePlanForm {...props} />,
});
