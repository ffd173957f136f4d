import { fenced } from './fence';
import type { Migration } from './migration';

/** What stands at the head of the clinic's papers; those it writes to; templates in all their versions; letters. */
export const letters: Migration = {
  name: '0036-letters',
  up: (run) =>
    run(`
create table letterhead (
  clinic_id uuid primary key references clinic,
  address text not null,
  logo bytea check (length(logo) <= 4000000)
);
${fenced('letterhead')}
create table colleague (
  clinic_id uuid not null references clinic,
  colleague_id uuid not null,
  name text not null check (name <> ''),
  greeting text not null,
  practice text not null,
  address text not null,
  likes text not null check (likes in ('mail', 'folder', 'paper')),
  destination_id uuid,
  retired_at timestamptz,
  primary key (clinic_id, colleague_id),
  foreign key (clinic_id, destination_id) references destination (clinic_id, destination_id)
);
${fenced('colleague', ['select', 'insert', 'update'])}
create table letter_template (
  clinic_id uuid not null references clinic,
  template_id uuid not null,
  name text not null check (name <> ''),
  -- Of its newest version, and of the newest change to that.
  number int not null check (number > 0),
  seq int not null check (seq > 0),
  retired_at timestamptz,
  primary key (clinic_id, template_id)
);
${fenced('letter_template', ['select', 'insert', 'update'])}
create unique index on letter_template (clinic_id, lower(name)) where retired_at is null;
create table letter_template_version (
  clinic_id uuid not null references clinic,
  template_id uuid not null,
  number int not null check (number > 0),
  name text not null,
  version int not null,
  body jsonb not null,
  changed_by uuid not null,
  changed_at timestamptz not null default now(),
  primary key (clinic_id, template_id, number),
  foreign key (clinic_id, template_id) references letter_template (clinic_id, template_id),
  foreign key (clinic_id, changed_by) references user_account (clinic_id, user_id)
);
${fenced('letter_template_version', ['select', 'insert', 'update'])}
create table letter (
  clinic_id uuid not null references clinic,
  letter_id uuid not null,
  visit_id uuid not null,
  title text not null check (title <> ''),
  -- Of which template it was begun; null for one that ships.
  template_id uuid,
  template_number int,
  colleague_id uuid,
  names text not null check (names in ('initials', 'full')),
  reasons text[] not null,
  procedures text[] not null,
  version int not null,
  body jsonb not null,
  seq int not null check (seq > 0),
  begun_by uuid not null,
  begun_at timestamptz not null default now(),
  changed_by uuid not null,
  changed_at timestamptz not null default now(),
  dropped_at timestamptz,
  primary key (clinic_id, letter_id),
  foreign key (clinic_id, visit_id) references visit (clinic_id, visit_id),
  foreign key (clinic_id, template_id, template_number)
    references letter_template_version (clinic_id, template_id, number),
  foreign key (clinic_id, colleague_id) references colleague (clinic_id, colleague_id),
  foreign key (clinic_id, begun_by) references user_account (clinic_id, user_id),
  foreign key (clinic_id, changed_by) references user_account (clinic_id, user_id)
);
create index on letter (clinic_id, visit_id);
${fenced('letter', ['select', 'insert', 'update'])}
alter table patient add referrer_id uuid;
alter table patient add foreign key (clinic_id, referrer_id) references colleague (clinic_id, colleague_id);
grant update (referrer_id) on patient to yonder_app;`)
};
