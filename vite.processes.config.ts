import { defineConfig } from 'vite';

/** The processes that answer no pages, built so that each of them starts in a fraction of a second. */
export default defineConfig({
  build: {
    ssr: true,
    target: 'node20',
    outDir: 'build/processes',
    rolldownOptions: {
      input: {
        worker: 'src/lib/server/work/main.ts',
        doors: 'src/lib/server/doors/main.ts',
        process: 'src/lib/server/work/process.mjs',
        thread: 'src/lib/server/work/thread.mjs',
        archive: 'standins/archive/main.ts',
        claims: 'standins/claims/main.ts',
        film: 'standins/film/main.ts',
        mailbox: 'standins/mailbox/main.ts',
        practice: 'standins/practice/main.ts'
      }
    }
  }
});
