import { healthOf } from '~/service/door/health';
import { app } from '~/web/server/app';
import { whatThisIs } from '~/web/server/whatThisIs';

/** Open to everybody: whether the application and its database answer, whether there is room, what it is, and how backup and watch are; no name, no address. */
export async function GET(): Promise<Response> {
  const health = await healthOf(app(), process.env['SHELF_DATA'] ?? '.', whatThisIs());
  return Response.json(health, {
    status: health.status === 'ok' ? 200 : 503,
    headers: { 'cache-control': 'no-store' },
  });
}
