import { calendarAt } from '~/service/upkeep/calendar';
import { app } from '~/web/server/app';

/** The upkeep calendar at a secret address; calendars cannot sign in. */
export async function GET(
  _request: Request,
  { params }: { readonly params: Promise<{ readonly secret: string }> },
): Promise<Response> {
  const { secret } = await params;
  const calendar = await calendarAt(app(), secret.replace(/\.ics$/, ''));
  if (calendar === null)
    return new Response('There is no calendar at this address.\n', {
      status: 404,
      headers: { 'content-type': 'text/plain; charset=utf-8' },
    });
  return new Response(calendar, {
    headers: { 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'private, max-age=300' },
  });
}
