// The application's own processes: plain Node, so that nothing stands between Next and its code. One process that
// listens, and a worker for each core that answers; one that dies is followed by another. Stops when it is
// told to, and when the process that started it is gone.
import cluster from 'node:cluster';
import { readFileSync, watchFile } from 'node:fs';
import { createServer } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { limitBody, mostOf } from './bodyLimit.mjs';
import { logLines } from './log.mjs';

const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS'];
/** What a proxy says of the other end; nobody else is believed. */
const CLAIMED = [
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-proto',
  'x-forwarded-port',
  'forwarded',
  'x-real-ip',
];
const LOOPBACK = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1']);
/** Where a page looks for what the build made for browsers. */
const BUILT_AT = '/_next/static/';
/** How often the files of the certificate are looked at. */
const RENEWED_MS = 5000;
/** More than this helps nobody in an office, and each holds connections to the database. */
const MOST_WORKERS = 4;
/** Before a worker that died is followed by another while others answer: soon for one, ever longer for many. */
const [FIRST_WAIT_MS, MOST_WAIT_MS, STEADY_MS] = [500, 30_000, 60_000];
/** So much later than it should have ended, a worker is ended. */
const DEAF_MS = 2000;

logLines();
// The workers accept from one socket of the system's, each when it has time. Handed out in turn instead, a connection given
// to a worker that has just died is answered by nobody and closed by nobody, and a busy one gets as many as an idle one.
cluster.schedulingPolicy = cluster.SCHED_NONE;
if (cluster.isPrimary) lead();
else await work();

function lead() {
  const workers = new Set();
  const most = Math.min(MOST_WORKERS, availableParallelism());
  let listening = 0;
  let stopping = false;
  let failed = false;
  let died = 0;
  const stop = (graceMs) => {
    if (stopping) return;
    stopping = true;
    for (const worker of workers) if (worker.isConnected()) worker.send({ kind: 'stop', graceMs });
    if (workers.size === 0) process.exit(failed ? 1 : 0);
    // One that cannot hear it any more is not waited for.
    setTimeout(() => {
      for (const worker of workers) worker.process.kill('SIGKILL');
    }, graceMs + DEAF_MS);
  };
  const begin = () => {
    const worker = cluster.fork();
    workers.add(worker);
    let steady;
    worker.on('message', (message) => {
      if (message.kind === 'listening') {
        // One that has answered for a while has nothing to do with why others died.
        steady = setTimeout(() => (died = 0), STEADY_MS);
        if (++listening === most) process.send?.({ kind: 'listening' });
      }
      if (message.kind === 'failed' && !failed) {
        failed = true;
        process.send?.(message);
      }
    });
    worker.on('exit', (code, signal) => {
      clearTimeout(steady);
      workers.delete(worker);
      // Before all have answered once something is wrong that trying again does not right.
      if (!stopping && listening < most) {
        failed = true;
        stop(300);
      }
      if (stopping) {
        if (workers.size === 0) process.exit(failed ? 1 : 0);
        return;
      }
      const ended = `A worker ended by itself (${signal ?? `code ${code}`})`;
      // Nobody would listen: however often it happens, one begins at once. How fast it can go round, loading it bounds.
      if (workers.size === 0) {
        died++;
        console.error(`${ended}; it was the last, another begins at once.`);
        return begin();
      }
      const waitMs = Math.min(MOST_WAIT_MS, FIRST_WAIT_MS * 2 ** died++);
      console.error(`${ended}; the others go on, another begins in ${waitMs / 1000} s.`);
      setTimeout(() => stopping || begin(), waitMs);
    });
  };
  for (let i = 0; i < most; i++) begin();
  process.on('SIGTERM', () => stop(5000));
  process.on('SIGINT', () => stop(5000));
  // Whoever started this is gone, and the database may follow: nothing new can be promised.
  process.on('disconnect', () => stop(300));
}

/** What no part of the application asks for, and what no address says: answered before anything tries to read it. */
function whyNot({ method, url }) {
  if (!METHODS.includes(method))
    return {
      status: 405,
      headers: { allow: METHODS.join(', ') },
      sentence: 'There is no such thing to ask for here.\n',
    };
  try {
    decodeURIComponent(url.replace(/\?.*$/s, ''));
    return undefined;
  } catch {
    return { status: 400, headers: {}, sentence: 'This is no address: its escapes are broken.\n' };
  }
}

function pairOf({ certificate, key }) {
  return { cert: readFileSync(certificate), key: readFileSync(key), minVersion: 'TLSv1.2' };
}

async function work() {
  let server;
  let stopping = false;
  /** Ends; requests that are running get so long to finish, and no connection is kept for a next one. */
  const stop = (graceMs) => {
    if (stopping) return;
    stopping = true;
    if (!server?.listening) process.exit(0);
    server.close(() => process.exit(0));
    setInterval(() => server.closeIdleConnections(), 50);
    setTimeout(() => process.exit(0), graceMs);
  };
  // Listened to before anything is loaded: one that has only just begun can be told to stop as well.
  process.on('message', (message) => {
    if (message.kind === 'stop') stop(message.graceMs);
  });
  // A signal to the whole group, as Ctrl-C gives, is the leader's to answer.
  process.on('SIGINT', () => undefined);
  process.on('SIGTERM', () => undefined);
  process.on('disconnect', () => stop(300));

  const { default: next } = await import('next');
  const port = Number(process.env.SHELF_PORT);
  const hostname = process.env.SHELF_LISTEN ?? '127.0.0.1';
  const isBehindProxy = Boolean(process.env.SHELF_BEHIND_PROXY);
  const isSecure = (process.env.SHELF_BASE_URL ?? '').startsWith('https:');
  const app = next({ dev: false, dir: process.env.SHELF_WEB, hostname, port });
  const handle = app.getRequestHandler();
  await app.prepare();
  // What the build made, compressed once and for all beside it; its names change with it, so it may be kept for good.
  const { default: sirv } = await import('sirv');
  const isCompressed = process.env.SHELF_COMPRESS !== 'off';
  const built = sirv(join(process.env.SHELF_WEB, '.next', 'static'), {
    brotli: isCompressed,
    gzip: isCompressed,
    immutable: true,
    maxAge: 31_536_000,
    setHeaders: (response) => response.setHeader('x-content-type-options', 'nosniff'),
  });

  const tls = process.env.SHELF_CERTIFICATE
    ? { certificate: process.env.SHELF_CERTIFICATE, key: process.env.SHELF_KEY }
    : null;
  server = tls ? createSecureServer(pairOf(tls)) : createServer();
  // Renewed files are picked up; the two may be written one after the other.
  if (tls)
    for (const file of [tls.certificate, tls.key])
      watchFile(file, { interval: RENEWED_MS, persistent: false }, () => {
        try {
          server.setSecureContext(pairOf(tls));
          console.error(`The certificate of ${tls.certificate} was read again.`);
        } catch (error) {
          console.error(`The certificate goes on as it was: ${error.message}`);
        }
      });
  server.on('request', (request, response) => {
    // Who is at the other end: as the socket knows it, or as the proxy in front says of whoever came to it. Whatever
    // else is claimed is overwritten.
    const passedOn = isBehindProxy ? request.headers['x-forwarded-for']?.split(',').at(-1)?.trim() : undefined;
    request.headers['x-shelf-client'] = passedOn || request.socket.remoteAddress || '';
    // From this machine itself, and nobody says that it is passed on: who runs the server, and no proxy's visitor.
    const isDirect = LOOPBACK.has(request.socket.remoteAddress) && CLAIMED.every((name) => !(name in request.headers));
    for (const name of CLAIMED) delete request.headers[name];
    request.headers['x-shelf-direct'] = isDirect ? 'yes' : 'no';
    if (isSecure) response.setHeader('strict-transport-security', 'max-age=31536000');
    const no = whyNot(request);
    if (no) {
      response.writeHead(no.status, { 'content-type': 'text/plain; charset=utf-8', ...no.headers }).end(no.sentence);
      return;
    }
    if (!limitBody(request, response, mostOf(request))) return;
    const answer = () =>
      handle(request, response).catch((error) => {
        // One that was cut off for its size is answered already.
        if (response.writableEnded) return;
        console.error(error);
        response.statusCode = 500;
        response.end();
      });
    const { url } = request;
    if (!url.startsWith(BUILT_AT)) return void answer();
    request.url = url.slice(BUILT_AT.length - 1);
    built(request, response, () => {
      request.url = url;
      answer();
    });
  });
  server.once('error', (error) => {
    process.send?.({ kind: 'failed', code: error.code, message: error.message });
    process.exit(1);
  });
  server.listen(port, hostname, () => process.send?.({ kind: 'listening' }));
}
