import { app } from '~/web/server/app';
import { AUTH_PATHS } from '~/service/access/auth';
import { isFromHere } from '~/service/access/origins';

/** Sign-in's own addresses. Only those on the list exist; who may use them, the sign-in library checks itself. */
async function handle(request: Request): Promise<Response> {
  const path = new URL(request.url).pathname.slice('/api/auth'.length);
  if (!(AUTH_PATHS as readonly string[]).includes(path))
    return Response.json({ message: 'There is nothing at this address.' }, { status: 404 });
  // Nobody is signed in by a page elsewhere either.
  if (request.method !== 'GET' && isFromHere(request.headers, app().baseUrl) === false)
    return Response.json({ message: 'This does not come from a page of this server.' }, { status: 403 });
  return app().auth.handler(request);
}

export { handle as GET, handle as POST };
