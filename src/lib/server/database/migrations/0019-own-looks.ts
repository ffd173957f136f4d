import { fenced } from './fence';
import type { Migration } from './migration';

/** Looks that a clinic has named, for all its pictures. */
const ownLook = `
create table own_look (
  clinic_id uuid not null references clinic,
  look_id uuid not null,
  name text not null check (name <> ''),
  body jsonb not null,
  made_by uuid not null,
  primary key (clinic_id, look_id),
  unique (clinic_id, name),
  foreign key (clinic_id, made_by) references user_account (clinic_id, user_id)
);
${fenced('own_look')}`;

export const ownLooks: Migration = {
  name: '0019-own-looks',
  up: async (run) => {
    await run(ownLook);
  }
};
