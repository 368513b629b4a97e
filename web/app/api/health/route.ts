import { healthOf } from '~/service/door/health';
import { app } from '~/web/server/app';

/** Open to everybody: says only whether the application and its database answer, and whether there is room. */
export async function GET(): Promise<Response> {
  const health = await healthOf(app(), process.env['SHELF_DATA'] ?? '.');
  return Response.json(health, {
    status: health.status === 'ok' ? 200 : 503,
    headers: { 'cache-control': 'no-store' },
  });
}
