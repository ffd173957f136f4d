import path from 'node:path';

/** The file that a pool's processes or threads begin with: as it is built, or as it is written where nothing is. */
export const poolFile = (name: 'process' | 'thread'): string =>
  process.env.YONDER_BUILT
    ? path.resolve('build/processes', `${name}.js`)
    : path.resolve('src/lib/server/work', `${name}.mjs`);
