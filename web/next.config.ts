import { join } from 'node:path';
import type { NextConfig } from 'next';

const root = join(import.meta.dirname, '..');

export default {
  poweredByHeader: false,
  reactStrictMode: true,
  // Pages and answers, unless whatever stands in front does it. Scripts come compressed from the build.
  compress: process.env['SHELF_COMPRESS'] !== 'off',
  turbopack: { root },
  // The first two bundle the service worker while the application is built; the third starts threads from its own files.
  serverExternalPackages: ['esbuild', 'esbuild-wasm', 'piscina'],
  outputFileTracingRoot: root,
  // Types are checked by bin/test, over the whole project at once.
  typescript: { ignoreBuildErrors: true },
} satisfies NextConfig;
