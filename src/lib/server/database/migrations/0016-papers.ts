import { fenced } from './fence';
import type { Migration } from './migration';

/** Papers that lie with visits. They go where their visit goes, and none is ever taken out of the records. */
const paper = `
create table paper (
  clinic_id uuid not null references clinic,
  paper_id uuid not null,
  visit_id uuid not null,
  key uuid not null,
  sha256 bytea not null,
  title text not null,
  file_name text not null,
  pages int not null check (pages > 0),
  added_by uuid not null,
  added_at timestamptz not null default now(),
  put_away_by uuid,
  primary key (clinic_id, paper_id),
  unique (clinic_id, key),
  foreign key (clinic_id, visit_id) references visit (clinic_id, visit_id),
  foreign key (clinic_id, sha256) references blob,
  foreign key (clinic_id, added_by) references user_account (clinic_id, user_id),
  foreign key (clinic_id, put_away_by) references user_account (clinic_id, user_id)
);
create index on paper (clinic_id, visit_id);
${fenced('paper', ['select', 'insert'])}
grant update (title, put_away_by) on paper to yonder_app;`;

export const papers: Migration = {
  name: '0016-papers',
  up: async (run) => {
    await run(paper);
  }
};
