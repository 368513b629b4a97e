import { canAnswer } from '../../store/organisation';
import type { App } from '../app';

/** True when the database answers. */
export function isAnswering(app: App): Promise<boolean> {
  return canAnswer(app.db);
}
