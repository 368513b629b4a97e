import { LargerForm } from '~/web/parts/plan/LargerForm';
import { planPage } from '~/web/server/planPage';

export const metadata = { title: 'Larger drives' };

export default planPage('reader', {
  title: (unit) => `Larger drives for ${unit}`,
  intro: ({ profile }) =>
    `One at a time: what shows signs first, then the oldest; each rebuilt and seen healthy before the next. ${
      profile.growth.expand === 'by-itself'
        ? 'On this family space comes by itself along the way.'
        : 'On this family space comes with one command at the end.'
    }`,
  form: (props, { first }) => <LargerForm {...props} first={first} />,
});
