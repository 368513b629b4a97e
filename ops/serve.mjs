// The application's own process: plain Node, so that nothing stands between Next and its code. Stops when it is told
// to, and when the process that started it is gone.
import { createServer } from 'node:http';
import next from 'next';

const port = Number(process.env.SHELF_PORT);
const hostname = '127.0.0.1';
const app = next({ dev: false, dir: process.env.SHELF_WEB, hostname, port });
const handle = app.getRequestHandler();
await app.prepare();

const server = createServer((request, response) => {
  // Who is at the other end, as the socket knows it; whatever a client claims here is overwritten.
  request.headers['x-shelf-client'] = request.socket.remoteAddress ?? '';
  delete request.headers['x-forwarded-for'];
  handle(request, response).catch((error) => {
    console.error(error);
    response.statusCode = 500;
    response.end();
  });
});

server.once('error', (error) => {
  process.send?.({ kind: 'failed', code: error.code, message: error.message });
  process.exit(1);
});
server.listen(port, hostname, () => process.send?.({ kind: 'listening' }));

let stopping = false;

/** Ends; requests that are running get so long to finish, and no connection is kept for a next one. */
function stop(graceMs) {
  if (stopping) return;
  stopping = true;
  server.close(() => process.exit(0));
  setInterval(() => server.closeIdleConnections(), 50);
  setTimeout(() => process.exit(0), graceMs);
}
process.on('SIGTERM', () => stop(5000));
process.on('SIGINT', () => stop(5000));
// Whoever started this is gone, and the database may follow: nothing new can be promised.
process.on('disconnect', () => stop(300));
