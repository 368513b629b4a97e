import { app } from '~/web/server/app';
import { answer } from '~/service/door/door';

/** Everything below /api/v1 goes through one door. */
function handle(request: Request): Promise<Response> {
  return answer(app(), request, new URL(request.url).pathname.slice('/api/v1'.length));
}

export { handle as GET, handle as POST, handle as PUT, handle as DELETE, handle as PATCH };
