import type { Migration } from './migration';

/** Which practice system a clinic has is one of its settings; how it is doing is none. */
const setUp = `
grant delete on practice_system to yonder_app;
create trigger note_setting after insert or update or delete on practice_system
  for each row execute function note_setting('clinic_id', '{heard_at,problem,unplaced}');`;

export const practiceSetUp: Migration = { name: '0046-practice-set-up', up: (run) => run(setUp) };
