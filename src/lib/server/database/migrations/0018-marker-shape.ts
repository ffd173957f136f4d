import type { Migration } from './migration';

/** What a thing of known size looks like in a picture, so that it can be looked for. */
export const markerShapes: Migration = {
  name: '0018-marker-shape',
  up: async (run) => {
    await run(`
      alter table marker add shape text not null default 'length'
        check (shape in ('ball', 'disc', 'length'))`);
  }
};
