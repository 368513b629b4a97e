import { told } from '~/service/watch/beTold';
import { app } from '~/web/server/app';

/** A watched unit tells that something has happened; units cannot sign in. What it says of it is not read: it is asked. */
export async function POST(
  request: Request,
  { params }: { readonly params: Promise<{ readonly secret: string }> },
): Promise<Response> {
  await request.body?.cancel();
  const { secret } = await params;
  return new Response(null, { status: (await told(app(), secret)) ? 204 : 404 });
}
