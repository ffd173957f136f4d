import { fenced } from './fence';
import type { Migration } from './migration';

/** Teaching cases: numbered, of pictures that were packed without an identity, with bytes of their own. */
const shelf = `
create table teaching_case (
  clinic_id uuid not null references clinic,
  case_id uuid not null,
  number int not null,
  rule_id uuid not null,
  state text not null default 'packing' check (state in ('packing', 'ready', 'stopped')),
  why text not null default '',
  -- Who let it stand though something was found, and why.
  let_go text not null default '',
  version int not null,
  body jsonb not null,
  search text not null,
  made_by uuid not null,
  made_at timestamptz not null default now(),
  dropped_at timestamptz,
  primary key (clinic_id, case_id),
  unique (clinic_id, number),
  foreign key (clinic_id, rule_id) references leaving_rule (clinic_id, rule_id),
  foreign key (clinic_id, made_by) references user_account (clinic_id, user_id)
);
${fenced('teaching_case', ['select', 'insert', 'update'])}
create table case_entry (
  clinic_id uuid not null references clinic,
  case_id uuid not null,
  entry_id uuid not null,
  picture_id uuid not null,
  position int not null,
  -- What is told of it, and what was found in it; null until it was packed.
  about jsonb,
  found jsonb,
  dropped boolean not null default false,
  primary key (clinic_id, entry_id),
  unique (clinic_id, case_id, picture_id),
  foreign key (clinic_id, case_id) references teaching_case (clinic_id, case_id),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id)
);
${fenced('case_entry', ['select', 'insert', 'update'])}
create table case_file (
  clinic_id uuid not null references clinic,
  file_id uuid not null,
  entry_id uuid not null,
  part text not null check (part in ('picture', 'state', 'report', 'plain', 'drawn')),
  frame int not null default 0,
  sha256 bytea not null,
  -- Attributes of a DICOM object that an index of objects tells.
  told jsonb,
  primary key (clinic_id, file_id),
  unique (clinic_id, entry_id, part, frame),
  foreign key (clinic_id, entry_id) references case_entry (clinic_id, entry_id),
  foreign key (clinic_id, sha256) references blob (clinic_id, sha256)
);
${fenced('case_file', ['select', 'insert', 'delete'])}`;

export const shelfOfCases: Migration = { name: '0028-shelf', up: (run) => run(shelf) };
