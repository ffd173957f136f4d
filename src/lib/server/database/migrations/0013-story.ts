import { fenced } from './fence';
import type { Migration } from './migration';

/** Why a visit takes place, part by part; each wording stays, so that two who write at once lose nothing. */
const story = `
create table visit_story (
  clinic_id uuid not null references clinic,
  visit_id uuid not null,
  seq int not null,
  part text not null,
  body jsonb not null,
  version int not null,
  written_by uuid not null,
  written_at timestamptz not null default now(),
  primary key (clinic_id, visit_id, seq),
  foreign key (clinic_id, visit_id) references visit (clinic_id, visit_id),
  foreign key (clinic_id, written_by) references user_account (clinic_id, user_id)
);
${fenced('visit_story', ['select', 'insert'])}
grant update (body, written_at) on visit_story to yonder_app;`;

export const visitStory: Migration = {
  name: '0013-story',
  up: async (run) => {
    await run(story);
  }
};
