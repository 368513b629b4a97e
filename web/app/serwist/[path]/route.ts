import { randomUUID } from 'node:crypto';
import { createSerwistRoute } from '@serwist/turbopack';

/** The service worker, bundled while the application is built: with what is kept from the start, and a name for this build. */
export const { dynamic, dynamicParams, revalidate, generateStaticParams, GET } = createSerwistRoute({
  cwd: `${process.cwd()}/web`,
  swSrc: 'offline/worker.ts',
  globDirectory: `${process.cwd()}/web`,
  globPatterns: ['.next/static/**/*.{js,css,woff2,wasm}'],
  maximumFileSizeToCacheInBytes: 4_000_000,
  additionalPrecacheEntries: [{ url: '/offline', revision: randomUUID() }],
  useNativeEsbuild: true,
  esbuildOptions: { define: { 'self.SHELF_BUILD': JSON.stringify(randomUUID()) } },
});
