import type { Migration } from './migration';

/** A plumb line in a photograph is a thing of known length. */
export const plumbLines: Migration = {
  name: '0022-plumb-lines',
  up: async (run) => {
    await run(`
      alter table marker drop constraint marker_shape_check,
        add constraint marker_shape_check check (shape in ('ball', 'disc', 'bar', 'ruler', 'plumb line', 'length'))`);
  }
};
