import { createServer } from 'node:http';
import { text } from 'node:stream/consumers';
import { openApp } from '../service/app';
import { answer } from '../service/door/door';

/**
 * A process that answers below /api/v1 and has no pages: what writes, without what takes seconds to start. For tests that
 * end it at any moment.
 */
const env = (name: string): string => process.env[name] ?? '';
const app = openApp({
  databaseUrl: env('SHELF_DATABASE_URL'),
  secret: env('SHELF_SECRET'),
  baseUrl: env('SHELF_BASE_URL'),
  root: process.cwd(),
});

createServer((request, response) => {
  void (async () => {
    const { method = 'GET', url = '/', headers } = request;
    const body = method === 'GET' ? {} : { body: await text(request) };
    const asked = new Request(new URL(url, env('SHELF_BASE_URL')), {
      method,
      headers: headers as HeadersInit,
      ...body,
    });
    const answered = await answer(app, asked, new URL(asked.url).pathname.slice('/api/v1'.length));
    response.writeHead(answered.status, Object.fromEntries(answered.headers));
    response.end(await answered.text());
  })();
}).listen(Number(env('SHELF_PORT')), '127.0.0.1', () => process.send?.('listening'));
