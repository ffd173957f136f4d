import type { Migration } from './migration';

/** Bars and rulers can be looked for too. */
export const longMarkers: Migration = {
  name: '0021-long-markers',
  up: async (run) => {
    await run(`
      alter table marker drop constraint marker_shape_check,
        add constraint marker_shape_check check (shape in ('ball', 'disc', 'bar', 'ruler', 'length'))`);
  }
};
