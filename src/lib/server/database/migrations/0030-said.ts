import { fenced } from './fence';
import type { Migration } from './migration';

/** Attributes that people say of pictures that came without any. */
const said = `
create table said_attributes (
  clinic_id uuid not null references clinic,
  picture_id uuid not null,
  version int not null,
  body jsonb not null,
  said_by uuid not null,
  said_at timestamptz not null default now(),
  primary key (clinic_id, picture_id),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id),
  foreign key (clinic_id, said_by) references user_account (clinic_id, user_id)
);
${fenced('said_attributes', ['select', 'insert', 'update'])}`;

export const saidOfPictures: Migration = { name: '0030-said', up: (run) => run(said) };
