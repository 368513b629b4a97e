import { createServer } from 'node:net';

/** Below those a system gives to connections that go out: one of these is not taken between being found and being used. */
const [FIRST, LAST] = [20_000, 32_000];

/** A port on loopback that is free now, drawn by lot: two that look at once hardly find the same. */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = FIRST + Math.floor(Math.random() * (LAST - FIRST));
    if (await isFree(port, '127.0.0.1')) return port;
  }
}

export function isFree(port: number, address: string): Promise<boolean> {
  return new Promise((resolve) => {
    const server = createServer();
    server.once('error', () => {
      resolve(false);
    });
    server.listen(port, address, () => {
      server.close(() => {
        resolve(true);
      });
    });
  });
}
