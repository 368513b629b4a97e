import { CommissionForm } from '~/web/parts/plan/commission/CommissionForm';
import { planPage } from '~/web/server/planPage';

export const metadata = { title: 'One more pool' };

export default planPage('keeper', {
  title: (unit) => `One more pool in ${unit}`,
  intro: () =>
    'Of new drives, or of drives that stand in it idle; nothing that has a pool is touched. Nothing is recorded until you begin.',
  form: ({ id, version, unit }, { drawers, rates }) => (
    <CommissionForm job="new-pool" id={id} version={version} unit={unit} drawers={drawers} rates={rates} />
  ),
});
