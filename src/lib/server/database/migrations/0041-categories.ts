import type { Migration } from './migration';

/** What pictures are filed under is a setting as others are: a change of it is taken back with one press. */
const categories = `
create trigger note_setting after insert or update or delete on category
  for each row execute function note_setting('category_id', '{place}');`;

export const categoriesNoted: Migration = { name: '0041-categories', up: (run) => run(categories) };
