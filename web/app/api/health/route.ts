import { app } from '~/web/server/app';
import { isAnswering } from '~/service/door/health';

/** Open to everybody: says only whether the application and its database answer. */
export async function GET(): Promise<Response> {
  const database = await isAnswering(app());
  return Response.json(
    { status: database ? 'ok' : 'failing', database: database ? 'ok' : 'not answering' },
    { status: database ? 200 : 503, headers: { 'cache-control': 'no-store' } },
  );
}
