import { insideLayout } from '~/web/server/insidePage';

export default insideLayout;
