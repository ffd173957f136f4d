import { fenced, forDefiner, ofDefiner } from './fence';
import type { Migration } from './migration';

/** One coming in: a disc, a folder, a mail, what a colleague's system sent. Each of its files has a line with its outcome. */
const intakes = `
create table intake (
  intake_id uuid primary key,
  clinic_id uuid not null references clinic,
  source text not null check (source in ('drop', 'disc', 'mail', 'network')),
  from_name text not null,
  -- Of a mail: where it came from.
  address text not null default '',
  -- Whom it was sent to, and what was written.
  for_user uuid,
  subject text not null default '',
  note text not null default '',
  -- Whether nobody here knows who sent it: then it waits apart.
  unknown_sender boolean not null default false,
  -- How many files it says it has; null where that is not known.
  said integer,
  -- Of what may come twice: a mail by its own number and whom it is for, an association by its own.
  key text,
  -- Of a disc with an index: the files that it names, by where they should lie.
  named jsonb not null default '[]',
  started_at timestamptz not null default now(),
  ended_at timestamptz,
  cancelled boolean not null default false,
  unique (clinic_id, intake_id),
  unique (clinic_id, key),
  foreign key (clinic_id, for_user) references user_account (clinic_id, user_id)
);
create index on intake (clinic_id, started_at desc);
${fenced('intake', ['select', 'insert', 'update'])}
create table intake_line (
  clinic_id uuid not null,
  intake_id uuid not null,
  seq bigint generated always as identity,
  name text not null,
  outcome text not null check (outcome in ('kept', 'known', 'refused')),
  code text not null default '',
  words text not null default '',
  at timestamptz not null default now(),
  primary key (intake_id, seq),
  foreign key (clinic_id, intake_id) references intake (clinic_id, intake_id)
);
${fenced('intake_line', ['select', 'insert'])}`;

/** What lies together on the sorting desk, and which intake it came with. */
const bundles = `
alter table arrival drop constraint arrival_source_check;
alter table arrival add constraint arrival_source_check
  check (source in ('device', 'folder', 'phone', 'drop', 'disc', 'mail', 'network'));
alter table arrival
  add bundle_id uuid,
  add bundle_key text not null default '',
  add intake_id uuid,
  -- Set on a numbered picture that has become one of the frames of another arrival.
  add part_of uuid,
  add foreign key (clinic_id, intake_id) references intake (clinic_id, intake_id),
  add foreign key (clinic_id, part_of) references arrival (clinic_id, arrival_id);
update arrival set bundle_id = arrival_id;
alter table arrival alter bundle_id set not null;
create index on arrival (clinic_id, bundle_id);
create index on arrival (clinic_id, original_sha256);
create index on arrival (clinic_id, (about->'origin'->>'instanceUid'));`;

/** Mail comes to a person's own address; colleagues who are known, and systems that may send. */
const senders = `
alter table user_account add mail_name text;
create unique index on user_account (mail_name) where mail_name is not null;
create table known_sender (
  clinic_id uuid not null references clinic,
  sender_id uuid not null,
  name text not null check (name <> ''),
  -- A mail address in small letters, an application entity title, or the hash of a token.
  address text,
  ae_title text,
  token_hash bytea unique,
  added_by uuid not null,
  added_at timestamptz not null default now(),
  primary key (clinic_id, sender_id),
  unique (clinic_id, address),
  foreign key (clinic_id, added_by) references user_account (clinic_id, user_id)
);
create unique index on known_sender (ae_title) where ae_title is not null;
${fenced('known_sender')}
${forDefiner('known_sender', ['select'])}
grant create on schema public to yonder_definer;
create function person_of_mail(asked text) returns table (clinic_id uuid, user_id uuid, display_name text, time_zone text)
language sql stable security definer set search_path = public as $body$
  select u.clinic_id, u.user_id, u.display_name, c.time_zone from user_account u join clinic c using (clinic_id)
  where u.mail_name = lower(asked)
$body$;
${ofDefiner('person_of_mail(text)')}
create function sender_of_system(asked_title text, token bytea)
returns table (clinic_id uuid, sender_id uuid, name text, time_zone text)
language sql stable security definer set search_path = public as $body$
  select s.clinic_id, s.sender_id, s.name, c.time_zone from known_sender s join clinic c using (clinic_id)
  where (asked_title is not null and s.ae_title = asked_title) or (token is not null and s.token_hash = token)
$body$;
${ofDefiner('sender_of_system(text, bytea)')}
revoke create on schema public from yonder_definer;
alter table clinic add read_folders text[] not null default '{}';
grant update (read_folders) on clinic to yonder_app;`;

/**
 * What was put away is removed for good after its days, with its bytes where nothing else has the same. What a device
 * exposed is never removed.
 */
const forgetting = `
${forDefiner('arrival', ['select', 'delete'])}
${forDefiner('blob', ['delete'])}
${forDefiner('blob_part', ['select', 'delete'])}
grant create on schema public to yonder_definer;
create function forget_arrivals(clinic uuid, days integer) returns table (arrival_id uuid, from_name text)
language plpgsql security definer set search_path = public as $body$
declare
  gone record;
begin
  for gone in
    select a.arrival_id, a.from_name, a.original_sha256 from arrival a
    where a.clinic_id = clinic and a.given_to is null and a.source not in ('device', 'folder')
      and (a.put_away_at < now() - make_interval(days => days) or exists (select 1 from arrival w
        where w.arrival_id = a.part_of and w.given_to is null and w.put_away_at < now() - make_interval(days => days)))
    order by a.part_of nulls last limit 500
  loop
    delete from arrival d where d.arrival_id = gone.arrival_id;
    begin
      delete from blob_part b where b.clinic_id = clinic and b.sha256 = gone.original_sha256;
      delete from blob b where b.clinic_id = clinic and b.sha256 = gone.original_sha256 and b.place = 'kept';
    exception when foreign_key_violation then
      -- Somebody's picture, paper or another arrival has the same bytes: they stay.
      null;
    end;
    arrival_id := gone.arrival_id;
    from_name := gone.from_name;
    return next;
  end loop;
end $body$;
${ofDefiner('forget_arrivals(uuid, integer)')}
revoke create on schema public from yonder_definer;`;

/** Mail and network are parts of the program that bring things in. */
const writing = `
create or replace function write_audit(session bytea, device_token bytea, part text, act text, subject text, details jsonb, patient uuid)
returns void language plpgsql security definer set search_path = public as $body$
declare
  clinic uuid := current_setting('yonder.clinic_id')::uuid;
  its_user uuid;
  its_name text;
begin
  if session is not null then
    select u.user_id, u.display_name into its_user, its_name from user_session s join user_account u using (user_id)
      where s.token_hash = session and s.clinic_id = clinic and s.expires_at > now();
  elsif device_token is not null then
    select 'Device ' || d.name into its_name from device d where d.token_hash = device_token and d.clinic_id = clinic;
    if its_name is null then
      select p.user_id, u.display_name || ', by phone' into its_user, its_name from phone p join user_account u using (user_id)
        where p.token_hash = device_token and p.clinic_id = clinic and p.paired_until > now();
    end if;
  elsif part in ('dispatch', 'door', 'enrolment', 'demo', 'practice system', 'mail', 'network', 'upkeep') then
    its_name := 'Yonder Tray, ' || part;
  end if;
  if its_name is null then
    raise exception 'nobody of this clinic shows this' using errcode = '28000';
  end if;
  insert into audit_line (clinic_id, seq, at, who, user_id, act, subject, patient_id, details, form, previous_hash, hash)
    values (clinic, 0, now(), its_name, its_user, act, subject, patient, details, 2, '', '');
end $body$;`;

export const arrivalBundles: Migration = {
  name: '0024-bundles',
  up: async (run) => {
    await run(intakes);
    await run(bundles);
    await run(senders);
    await run(forgetting);
    await run(writing);
  }
};
