import path from 'node:path';
import { svelte } from '@sveltejs/vite-plugin-svelte';
import { defineConfig } from 'vitest/config';
import { LongestFirst } from './e2e/harness/longestFirst';

const alias = {
  $core: path.resolve('src/lib/core'),
  $server: path.resolve('src/lib/server')
};

export default defineConfig({
  test: {
    reporters: ['default'],
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'core',
          include: ['src/lib/core/**/*.test.ts'],
          // Nothing here keeps anything: modules are loaded once for all files.
          isolate: false,
          testTimeout: 120_000,
          // Nothing else runs meanwhile: both cores work.
          maxWorkers: 2,
          sequence: { groupOrder: 0 }
        }
      },
      {
        plugins: [svelte()],
        resolve: { alias: { ...alias, '$app/state': path.resolve('e2e/harness/appState.ts') } },
        test: {
          name: 'interface',
          include: ['src/lib/ui/**/*.test.ts', 'src/lib/workers/**/*.test.ts', 'demo/**/*.test.ts'],
          testTimeout: 120_000,
          maxWorkers: 2,
          sequence: { groupOrder: 0 }
        }
      },
      {
        resolve: { alias },
        test: {
          name: 'services',
          include: ['src/lib/server/**/*.test.ts', 'standins/**/*.test.ts', 'scripts/**/*.test.ts'],
          globalSetup: ['e2e/harness/clusterSetup.ts'],
          // Each file has a database of its own, and tells its clinic where all else is: modules are loaded once for all.
          maxWorkers: 2,
          isolate: false,
          testTimeout: 60_000,
          hookTimeout: 60_000,
          sequence: { groupOrder: 1 }
        }
      },
      {
        resolve: { alias },
        test: {
          name: 'browser',
          include: ['e2e/**/*.test.ts'],
          globalSetup: ['e2e/harness/clusterSetup.ts'],
          // Each file has its own server, database and browser, and waits for them most of its time.
          maxWorkers: 2,
          isolate: false,
          // What is simulated is waited for here: it does not stand back. Processes that open files are those that were built.
          env: { RENDER_NICE: '0', YONDER_BUILT: '1' },
          testTimeout: 240_000,
          hookTimeout: 240_000,
          sequence: { groupOrder: 2 }
        }
      }
    ]
  }
});
