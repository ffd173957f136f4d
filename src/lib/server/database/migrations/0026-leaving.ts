import { fenced } from './fence';
import type { Migration } from './migration';

/** How pictures leave without their identity: rules of the clinic's own, and who is called what under each. */
const rules = `
create table leaving_rule (
  clinic_id uuid not null references clinic,
  rule_id uuid not null,
  name text not null check (name <> ''),
  version int not null,
  body jsonb not null,
  -- Whom its pseudonyms are made for; two rules never share them.
  purpose text not null,
  position int not null default 0,
  dropped_at timestamptz,
  primary key (clinic_id, rule_id)
);
create unique index on leaving_rule (clinic_id, name) where dropped_at is null;
${fenced('leaving_rule', ['select', 'insert', 'update'])}
-- What a pseudonym is for: the same patient is somebody else for another purpose. Those of before are for the first.
alter table pseudonym add purpose text not null default '';
alter table pseudonym add clock_shift_seconds int not null default 0;
alter table pseudonym drop constraint pseudonym_pkey;
alter table pseudonym add primary key (clinic_id, purpose, patient_id);`;

/** Where parcels go, how, and what goes along. */
const destinations = `
alter table destination add kind text not null default 'dicomweb' check (kind in ('dicomweb', 'dimse', 'folder', 'mail'));
alter table destination add settings jsonb not null default '{}';
alter table destination add dropped_at timestamptz;
alter table destination drop constraint destination_clinic_id_name_key;
create unique index on destination (clinic_id, name) where dropped_at is null;
grant insert, update on destination to yonder_app;`;

/** Presentation states and reports that came in with pictures: they wait for the picture that they are about. */
const told = `
create table told_beside (
  clinic_id uuid not null references clinic,
  told_id uuid not null,
  intake_id uuid not null,
  instance_uid text not null,
  -- The pictures that it is about, by their numbers.
  about text[] not null,
  bytes bytea not null,
  at timestamptz not null default now(),
  primary key (clinic_id, told_id),
  unique (clinic_id, instance_uid),
  foreign key (clinic_id, intake_id) references intake (clinic_id, intake_id)
);
create index on told_beside using gin (about);
${fenced('told_beside', ['select', 'insert', 'delete'])}`;

/** A parcel may be fetched instead of sent, hold several visits, be looked through, held and withdrawn. */
const parcels = `
alter table parcel alter destination_id drop not null;
alter table parcel alter visit_id drop not null;
alter table parcel add rule_id uuid;
alter table parcel add foreign key (clinic_id, rule_id) references leaving_rule (clinic_id, rule_id);
-- How it is packed; null for those of before, which were DICOM objects and nothing else.
alter table parcel add packing jsonb;
alter table parcel add state text not null default 'open' check (state in ('checking', 'stopped', 'open', 'held', 'withdrawn'));
alter table parcel add checked jsonb;
alter table parcel add packed_count int not null default 0;
alter table parcel add fetched_at timestamptz;
alter table parcel add why text not null default '';
create index on parcel (clinic_id, made_at desc, parcel_id);
create table parcel_item (
  clinic_id uuid not null references clinic,
  parcel_id uuid not null,
  picture_id uuid not null,
  position int not null,
  -- What was found in it that must not leave, and where; null until it was looked through.
  found jsonb,
  primary key (clinic_id, parcel_id, picture_id),
  foreign key (clinic_id, parcel_id) references parcel (clinic_id, parcel_id),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id)
);
${fenced('parcel_item', ['select', 'insert'])}
grant update (found) on parcel_item to yonder_app;
insert into parcel_item (clinic_id, parcel_id, picture_id, position)
  select clinic_id, parcel_id, picture_id, row_number() over (partition by parcel_id order by delivery_id) from delivery;
-- A delivery without a picture is the parcel as a whole: a mail, a folder.
alter table delivery alter picture_id drop not null;
alter table delivery drop constraint delivery_state_check;
alter table delivery add constraint delivery_state_check
  check (state in ('packing', 'waiting', 'sending', 'delivered', 'failed', 'held', 'withdrawn'));
alter table delivery add next_step text not null default '';
alter table delivery add read_back_at timestamptz;
-- Somebody was at it, where it takes long; and it was handed over to where nobody can be asked about it.
alter table delivery add alive_at timestamptz;
alter table delivery add handed_at timestamptz;
create table wire_line (
  clinic_id uuid not null references clinic,
  wire_id uuid not null,
  delivery_id uuid not null,
  at timestamptz not null default now(),
  said jsonb not null,
  primary key (clinic_id, wire_id),
  foreign key (clinic_id, delivery_id) references delivery (clinic_id, delivery_id)
);
create index on wire_line (clinic_id, delivery_id, wire_id);
${fenced('wire_line', ['select', 'insert', 'delete'])}`;

/** A visit that is done with: who said so, and when. Whatever happens in it later is still possible. */
const closing = `
alter table visit add closed_at timestamptz;
alter table visit add closed_by uuid;
alter table visit add foreign key (clinic_id, closed_by) references user_account (clinic_id, user_id);
grant update (closed_at, closed_by) on visit to yonder_app;`;

export const leaving: Migration = {
  name: '0026-leaving',
  up: async (run) => {
    await run(rules);
    await run(destinations);
    await run(parcels);
    await run(told);
    await run(closing);
  }
};
