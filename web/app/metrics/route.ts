import { metrics } from '~/service/door/metrics';
import { app } from '~/web/server/app';
import { whatThisIs } from '~/web/server/whatThisIs';

/** Figures for a monitoring system: from this machine, or with a token. */
export function GET(request: Request): Promise<Response> {
  return metrics(app(), request.headers, whatThisIs());
}
