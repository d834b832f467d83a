import { gzipSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vitest/config';

const FIRST_LOAD_LIMIT_KB = 220;

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

export default defineConfig({
  plugins: [react(), firstLoad()],
  build: { target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 650 }, // the log's table, loaded with its page
  server: { proxy: { '/api': 'http://127.0.0.1:8000' }, fs: { allow: ['..'] } }, // the guide stands in docs/
  // a shared machine may be slow: how long a test takes is no finding
  test: { environment: 'jsdom', include: ['src/**/*.test.{ts,tsx}'], restoreMocks: true, testTimeout: 60_000 },
});
