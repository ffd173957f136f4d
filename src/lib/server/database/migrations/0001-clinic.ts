import type { Run } from './migration';

/** Tables whose rows belong to one clinic, fenced by row-level security. */
const tables = `
create table clinic (
  clinic_id uuid primary key,
  name text not null,
  notation text not null default 'fdi' check (notation in ('fdi', 'universal', 'palmer')),
  enrolment_hash bytea not null,
  secret bytea not null
);
create table user_account (
  user_id uuid primary key,
  clinic_id uuid not null references clinic,
  sign_in_name text not null unique,
  display_name text not null,
  role text not null check (role in ('assistant', 'clinician', 'front-desk', 'administrator')),
  password_hash text not null
);
create table user_session (
  token_hash bytea primary key,
  clinic_id uuid not null references clinic,
  user_id uuid not null references user_account,
  expires_at timestamptz not null
);
create table room (
  room_id uuid primary key,
  clinic_id uuid not null references clinic,
  name text not null,
  trade text not null,
  place int not null
);
create table patient (
  patient_id uuid primary key,
  clinic_id uuid not null references clinic,
  kind text not null check (kind in ('person', 'animal')),
  family_name text not null,
  given_name text not null,
  birth_date date,
  sex text not null default '' check (sex in ('', 'F', 'M', 'O')),
  record_number text not null,
  species text,
  owner text,
  alert text,
  unique (clinic_id, record_number)
);
create table visit (
  visit_id uuid primary key,
  clinic_id uuid not null references clinic,
  patient_id uuid not null references patient,
  room_id uuid not null references room,
  opened_at timestamptz not null,
  study_uid text not null unique,
  series_uid text not null unique,
  accession text not null
);
create index on visit (clinic_id, patient_id, opened_at desc);
create table appointment (
  appointment_id uuid primary key,
  clinic_id uuid not null references clinic,
  patient_id uuid not null references patient,
  room_id uuid not null references room,
  starts_at timestamptz not null,
  minutes int not null,
  reason text not null,
  visit_id uuid references visit
);
create index on appointment (clinic_id, starts_at);
create table tray (
  tray_id uuid primary key,
  clinic_id uuid not null references clinic,
  visit_id uuid not null unique references visit
);
create table tray_event (
  tray_id uuid not null references tray,
  seq int not null,
  clinic_id uuid not null references clinic,
  body jsonb not null,
  happened_at timestamptz not null default now(),
  caused_by text not null,
  primary key (tray_id, seq)
);
create table blob (
  clinic_id uuid not null references clinic,
  sha256 bytea not null,
  bytes bytea not null,
  primary key (clinic_id, sha256)
);
alter table blob alter column bytes set storage external;
create table picture (
  picture_id uuid primary key,
  clinic_id uuid not null references clinic,
  patient_id uuid not null references patient,
  visit_id uuid not null references visit,
  original_sha256 bytea not null,
  media_type text not null,
  file_name text not null,
  source text not null check (source in ('device', 'file')),
  width int not null,
  height int not null,
  channels int not null,
  bits_stored int not null,
  sample_offset int not null,
  facts jsonb not null,
  taken_at timestamptz not null,
  stored_at timestamptz not null default now(),
  instance_uid text not null unique,
  number int not null,
  foreign key (clinic_id, original_sha256) references blob
);
create index on picture (clinic_id, patient_id, taken_at desc);
create index on picture (visit_id);
create table picture_level (
  picture_id uuid not null references picture,
  level int not null,
  clinic_id uuid not null references clinic,
  width int not null,
  height int not null,
  zipped bytea not null,
  primary key (picture_id, level)
);
alter table picture_level alter column zipped set storage external;
create table picture_step (
  picture_id uuid not null references picture,
  seq int not null,
  clinic_id uuid not null references clinic,
  layer text not null,
  body jsonb,
  undoes int,
  key text not null,
  made_at timestamptz not null default now(),
  made_by uuid not null references user_account,
  primary key (picture_id, seq),
  unique (picture_id, key)
);
create table picture_link (
  picture_id uuid not null references picture,
  tooth int not null,
  clinic_id uuid not null references clinic,
  linked_by uuid not null references user_account,
  primary key (picture_id, tooth)
);
create table arrival_key (
  clinic_id uuid not null references clinic,
  key text not null,
  picture_id uuid not null references picture,
  primary key (clinic_id, key)
);
create table device (
  device_id uuid primary key,
  clinic_id uuid not null references clinic,
  room_id uuid not null references room,
  name text not null,
  kind text not null,
  token_hash bytea not null unique,
  lamp text not null default 'absent',
  lamp_words text not null default '',
  lamp_at timestamptz not null default now(),
  arming_id uuid,
  ready_seconds int not null default 120,
  unique (clinic_id, name)
);
create table arming (
  arming_id uuid primary key,
  clinic_id uuid not null references clinic,
  device_id uuid not null references device,
  tray_id uuid not null references tray,
  slot_id text not null,
  made_at timestamptz not null default now()
);
create index on arming (device_id, made_at desc);
create table pseudonym (
  patient_id uuid primary key references patient,
  clinic_id uuid not null references clinic,
  name text not null unique,
  date_shift_days int not null
);
create table destination (
  destination_id uuid primary key,
  clinic_id uuid not null references clinic,
  name text not null,
  url text not null,
  unique (clinic_id, name)
);
create table parcel (
  parcel_id uuid primary key,
  clinic_id uuid not null references clinic,
  visit_id uuid not null references visit,
  destination_id uuid not null references destination,
  identity text not null check (identity in ('identified', 'deidentified')),
  made_at timestamptz not null default now(),
  made_by uuid not null references user_account,
  key text not null,
  unique (clinic_id, key)
);
create table delivery (
  delivery_id uuid primary key,
  clinic_id uuid not null references clinic,
  parcel_id uuid not null references parcel,
  picture_id uuid not null references picture,
  state text not null check (state in ('waiting', 'sending', 'delivered', 'failed')),
  attempts int not null default 0,
  reason text not null default '',
  next_try_at timestamptz,
  sent_instance_uid text,
  sent_study_uid text,
  delivered_at timestamptz,
  unique (parcel_id, picture_id)
);
create index on delivery (clinic_id, state);
create table recent (
  user_id uuid not null references user_account,
  patient_id uuid not null references patient,
  clinic_id uuid not null references clinic,
  opened_at timestamptz not null,
  primary key (user_id, patient_id)
);`;

/** The audit: lines are only ever added; each carries the hash of the one before it. */
const audit = `
create table audit_head (
  clinic_id uuid primary key references clinic,
  seq bigint not null,
  hash bytea not null
);
create table audit_line (
  clinic_id uuid not null references clinic,
  seq bigint not null,
  at timestamptz not null,
  who text not null,
  act text not null,
  subject text not null,
  details jsonb not null,
  previous_hash bytea not null,
  hash bytea not null,
  primary key (clinic_id, seq)
);
create function audit_hash(line audit_line) returns bytea language sql immutable as $body$
  select sha256(line.previous_hash || convert_to(
    jsonb_build_array(line.clinic_id, line.seq, extract(epoch from line.at), line.who, line.act, line.subject, line.details)::text,
    'UTF8'))
$body$;
create function audit_chain() returns trigger language plpgsql security definer set search_path = public as $body$
declare head audit_head;
begin
  insert into audit_head (clinic_id, seq, hash) values (new.clinic_id, 0, '\\x') on conflict do nothing;
  select * into head from audit_head where clinic_id = new.clinic_id for update;
  new.seq := head.seq + 1;
  new.at := clock_timestamp();
  new.previous_hash := head.hash;
  new.hash := audit_hash(new);
  update audit_head set seq = new.seq, hash = new.hash where clinic_id = new.clinic_id;
  return new;
end $body$;
create trigger audit_chain before insert on audit_line for each row execute function audit_chain();
create function audit_refuse() returns trigger language plpgsql as $body$
begin
  raise exception 'audit lines are never changed or removed';
end $body$;
create trigger audit_refuse before update or delete or truncate on audit_line execute function audit_refuse();`;

/** What has to be asked before a clinic is known. Each answers one narrow question and nothing else. */
const beforeClinic = `
create table sign_in_failure (name text not null, at timestamptz not null default now());
create index on sign_in_failure (name, at);
create function account_to_sign_in(wanted text)
returns table (user_id uuid, clinic_id uuid, password_hash text)
language sql stable security definer set search_path = public as $body$
  select user_id, clinic_id, password_hash from user_account where sign_in_name = wanted
$body$;
create function caller_of_session(token bytea)
returns table (user_id uuid, clinic_id uuid, role text, display_name text, clinic_name text, notation text)
language sql stable security definer set search_path = public as $body$
  select u.user_id, u.clinic_id, u.role, u.display_name, c.name, c.notation
  from user_session s join user_account u using (user_id) join clinic c on c.clinic_id = u.clinic_id
  where s.token_hash = token and s.expires_at > now()
$body$;
create function device_of_token(token bytea)
returns table (device_id uuid, clinic_id uuid, name text)
language sql stable security definer set search_path = public as $body$
  select device_id, clinic_id, name from device where token_hash = token
$body$;
create function clinic_of_enrolment(code bytea) returns table (clinic_id uuid)
language sql stable security definer set search_path = public as $body$
  select clinic_id from clinic where enrolment_hash = code
$body$;
create function clinic_of_delivery(wanted uuid) returns table (clinic_id uuid)
language sql stable security definer set search_path = public as $body$
  select clinic_id from delivery where delivery_id = wanted
$body$;`;

export async function up(run: Run): Promise<void> {
  await run(tables);
  await run(audit);
  await run(beforeClinic);
  await run(`
do $body$
declare t text;
begin
  for t in select table_name from information_schema.columns
           where table_schema = 'public' and column_name = 'clinic_id'
             and table_name in (select tablename from pg_tables where schemaname = 'public') loop
    execute format('alter table %I enable row level security', t);
    execute format('create policy own_clinic on %I
      using (clinic_id = nullif(current_setting(''yonder.clinic_id'', true), '''')::uuid)
      with check (clinic_id = nullif(current_setting(''yonder.clinic_id'', true), '''')::uuid)', t);
    execute format('grant select, insert, update, delete on %I to yonder_app', t);
  end loop;
end $body$;
revoke insert, update, delete on audit_head from yonder_app;
revoke update, delete on audit_line from yonder_app;
revoke update, delete on tray_event, picture_step, blob from yonder_app;
revoke insert, update, delete on clinic from yonder_app;
grant update (notation) on clinic to yonder_app;
grant select, insert, delete on sign_in_failure to yonder_app;
revoke execute on all functions in schema public from public;
grant execute on function account_to_sign_in, caller_of_session, device_of_token, clinic_of_enrolment,
  clinic_of_delivery, audit_hash to yonder_app;`);
}
