import { fenced } from './fence';
import type { Migration } from './migration';

/** Guides that a clinic has written itself. What was done by an earlier version carries that version with it. */
const writtenGuide = `
create table written_guide (
  clinic_id uuid not null references clinic,
  guide_id uuid not null,
  version integer not null check (version > 0),
  name text not null check (name <> ''),
  body jsonb not null,
  made_by uuid not null,
  primary key (clinic_id, guide_id),
  unique (clinic_id, name),
  foreign key (clinic_id, made_by) references user_account (clinic_id, user_id)
);
${fenced('written_guide')}`;

export const writtenGuides: Migration = {
  name: '0023-written-guides',
  up: async (run) => {
    await run(writtenGuide);
  }
};
