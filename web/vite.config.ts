import { cpSync, existsSync, readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { VitePWA } from 'vite-plugin-pwa';
import { defineConfig, type Plugin } from 'vitest/config';

const FIRST_LOAD_LIMIT_KB = 220;
const BAY = 'bay/manifest.json'; // written by scripts/pack-bay.mjs
const bay = existsSync(BAY) ? (JSON.parse(readFileSync(BAY, 'utf8')) as { folder: string }).folder : '';

/** Prints the gzipped JavaScript that the first page loads, and fails the build past the limit. */
function firstLoad(): Plugin {
  return {
    name: 'first-load',
    generateBundle(_options, bundle) {
      const chunks = Object.values(bundle).filter((part) => part.type === 'chunk');
      const byName = new Map(chunks.map((chunk) => [chunk.fileName, chunk]));
      const first = new Set<string>();
      const follow = (name: string) => {
        const chunk = byName.get(name);
        if (!chunk || first.has(name)) return;
        first.add(name);
        chunk.imports.forEach(follow);
      };
      chunks.filter((chunk) => chunk.isEntry).forEach((chunk) => follow(chunk.fileName));
      const bytes = [...first].reduce((sum, name) => sum + gzipSync(byName.get(name)?.code ?? '').length, 0);
      const kb = bytes / 1000;
      console.log(`first-load JavaScript: ${kb.toFixed(0)} kB gzip (at most ${FIRST_LOAD_LIMIT_KB})`);
      if (kb > FIRST_LOAD_LIMIT_KB) this.error('first load grew past its limit: load something lazily');
    },
  };
}

/** The core for browsers goes along beside the assets: fetched after sign-in, no part of any page. */
function packedCore(): Plugin {
  return {
    name: 'packed-core',
    apply: 'build',
    writeBundle(options) {
      if (bay) cpSync(`bay/${bay}`, `${options.dir}/bay/${bay}`, { recursive: true });
    },
  };
}

export default defineConfig({
  plugins: [
    react(),
    firstLoad(),
    packedCore(),
    VitePWA({
      registerType: 'prompt', // an update asks before it replaces
      injectRegister: false,
      strategies: 'injectManifest',
      srcDir: 'src',
      filename: 'sw.ts',
      manifest: {
        name: 'Temper',
        short_name: 'Temper',
        description: 'Computes coolant changes',
        start_url: '/',
        display: 'standalone',
        background_color: '#EEF2EF',
        theme_color: '#EEF2EF',
        icons: [
          { src: '/favicon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' },
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png', purpose: 'any' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'any' },
          { src: '/icon-maskable-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
        ],
      },
      injectManifest: {
        globPatterns: ['assets/**/*.{js,css,woff2,svg,png,wasm}', 'index.html', 'favicon.svg', 'manifest.webmanifest'],
        maximumFileSizeToCacheInBytes: 4_000_000,
        // the page as the server gives it, with the policy and the nonce of that answer: never the bare file
        manifestTransforms: [
          (entries) => ({
            manifest: entries.map((entry) => (entry.url === 'index.html' ? { ...entry, url: '/' } : entry)),
            warnings: [],
          }),
        ],
      },
    }),
  ],
  define: { __BAY__: JSON.stringify(bay ? `/bay/${bay}/` : '') },
  worker: { format: 'es' },
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 650 }, // the log's table, loaded with its page
  server: { proxy: { '/api': 'http://127.0.0.1:8000' }, fs: { allow: ['..'] } }, // the guide stands in docs/
  // a shared machine may be slow: how long a test takes is no finding
  test: { environment: 'jsdom', include: ['src/**/*.test.{ts,tsx}'], restoreMocks: true, testTimeout: 60_000 },
});
