import type { Migration } from './migration';

/** Films that are laid out here and printed by a film printer: one delivery a film. */
const film = `
alter table destination drop constraint destination_kind_check;
alter table destination add constraint destination_kind_check
  check (kind in ('dicomweb', 'dimse', 'folder', 'mail', 'claims', 'film'));
-- How its pictures are laid out; and which of the films a delivery is, from 1.
alter table parcel add film jsonb;
alter table delivery add film int check (film > 0);`;

export const filmsPrinted: Migration = { name: '0039-film', up: (run) => run(film) };
