import { join } from 'node:path';
import type { NextConfig } from 'next';

const root = join(import.meta.dirname, '..');

export default {
  poweredByHeader: false,
  reactStrictMode: true,
  // It listens on loopback: whatever stands in front of it compresses, or need not.
  compress: false,
  turbopack: { root },
  // Bundles the service worker while the application is built.
  // Starts threads of its own, from its own files.
  serverExternalPackages: ['esbuild', 'esbuild-wasm', 'piscina'],
  outputFileTracingRoot: root,
  // Types are checked by bin/test, over the whole project at once.
  typescript: { ignoreBuildErrors: true },
} satisfies NextConfig;
