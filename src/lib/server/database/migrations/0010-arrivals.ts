import { fenced, forDefiner, ofDefiner } from './fence';
import type { Migration } from './migration';

/**
 * What came in and belongs to nobody yet. The picture that it becomes has the same number, so whoever sent it and asks
 * again is always told the same one.
 */
const arrivals = `
alter table arrival_key drop constraint arrival_key_clinic_id_picture_id_fkey;
create table arrival (
  arrival_id uuid primary key,
  clinic_id uuid not null references clinic,
  source text not null check (source in ('device', 'folder', 'phone')),
  from_name text not null,
  room_id uuid,
  user_id uuid,
  original_sha256 bytea not null,
  file_name text not null default '',
  title text not null default '',
  remark text not null default '',
  -- What it is, as a picture would have it, and what it says of whose it is.
  about jsonb not null,
  -- Why it lies here, in words.
  reason text not null,
  taken_at timestamptz not null,
  arrived_at timestamptz not null default now(),
  shown bytea,
  given_to uuid,
  put_away_at timestamptz,
  unique (clinic_id, arrival_id),
  foreign key (clinic_id, room_id) references room (clinic_id, room_id),
  foreign key (clinic_id, user_id) references user_account (clinic_id, user_id),
  foreign key (clinic_id, given_to) references visit (clinic_id, visit_id),
  foreign key (clinic_id, original_sha256) references blob (clinic_id, sha256)
);
alter table arrival alter column shown set storage external;
create index on arrival (clinic_id, arrived_at) where given_to is null;
${fenced('arrival', ['select', 'insert', 'update'])}`;

/** Phones that are paired: with a code shown once, for one user and a set time. */
const phones = `
create table phone (
  phone_id uuid primary key,
  clinic_id uuid not null references clinic,
  user_id uuid not null,
  code_hash bytea not null unique,
  code_until timestamptz not null,
  token_hash bytea unique,
  paired_until timestamptz not null,
  name text not null default '',
  paired_at timestamptz,
  foreign key (clinic_id, user_id) references user_account (clinic_id, user_id)
);
${fenced('phone')}
${forDefiner('phone', ['select'])}
grant create on schema public to yonder_definer;
create function clinic_of_phone_code(code bytea) returns table (clinic_id uuid)
language sql stable security definer set search_path = public as $body$
  select clinic_id from phone where code_hash = code and token_hash is null and code_until > now()
$body$;
${ofDefiner('clinic_of_phone_code(bytea)')}
create function phone_of_token(token bytea)
returns table (phone_id uuid, clinic_id uuid, user_id uuid, display_name text, time_zone text, paired_until timestamptz)
language sql stable security definer set search_path = public as $body$
  select p.phone_id, p.clinic_id, p.user_id, u.display_name, c.time_zone, p.paired_until
  from phone p join user_account u using (user_id) join clinic c on c.clinic_id = p.clinic_id
  where p.token_hash = token and p.paired_until > now()
$body$;
${ofDefiner('phone_of_token(bytea)')}
revoke create on schema public from yonder_definer;`;

/** A phone writes in the name of whose it is, and the practice system as a part of the program. */
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
  elsif part in ('dispatch', 'door', 'enrolment', 'demo', 'practice system') then
    its_name := 'Yonder Tray, ' || part;
  end if;
  if its_name is null then
    raise exception 'nobody of this clinic shows this' using errcode = '28000';
  end if;
  insert into audit_line (clinic_id, seq, at, who, user_id, act, subject, patient_id, details, form, previous_hash, hash)
    values (clinic, 0, now(), its_name, its_user, act, subject, patient, details, 2, '', '');
end $body$;`;

/**
 * Plate scanners read at several finenesses, each with the time it takes; what is read while no slot is empty lies on the
 * bench, so a device can be armed for a tray and none of its slots. A plate that comes twice in a series is known.
 */
const plates = `
alter table device add finenesses jsonb not null default '[]', add fineness text;
alter table arming alter slot_id drop not null;
create or replace function exposure_context(token bytea, arrival text, arming uuid) returns jsonb
language sql stable security definer set search_path = public as $body$
  select jsonb_build_object(
    'deviceId', d.device_id, 'clinicId', d.clinic_id, 'name', d.name, 'kind', d.kind,
    'known', (select picture_id from arrival_key k
              where k.clinic_id = d.clinic_id and k.key = d.device_id || ':' || arrival),
    'armed', (select jsonb_build_object(
        'slotId', a.slot_id, 'trayId', t.tray_id, 'trayNumber', t.number, 'visitId', v.visit_id, 'patientId', v.patient_id,
        'userId', a.user_id,
        'plates', (select coalesce(jsonb_object_agg(p.facts->>'plate', p.taken_at), '{}') from picture p
                   where p.clinic_id = v.clinic_id and p.visit_id = v.visit_id and p.facts ? 'plate'),
        'events', (select coalesce(jsonb_agg(jsonb_build_object('seq', e.seq, 'kind', e.kind, 'version', e.version, 'body', e.body)
                     order by e.seq), '[]') from tray_event e where e.clinic_id = t.clinic_id and e.tray_id = t.tray_id),
        'devices', (select coalesce(jsonb_agg(jsonb_build_object('deviceId', o.device_id, 'kind', o.kind,
                      'absent', o.lamp = 'absent', 'trayId', oa.tray_id, 'slotId', oa.slot_id)), '[]')
                    from device o left join arming oa using (arming_id)
                    where o.clinic_id = t.clinic_id and (o.room_id = v.room_id or oa.tray_id = t.tray_id)))
      from arming a join tray t using (tray_id) join visit v using (visit_id)
      where a.arming_id = arming and a.device_id = d.device_id and a.clinic_id = d.clinic_id))
  from device d where d.token_hash = token
$body$;
${forDefiner('picture', ['select'])}`;

export const arrivalsAndPhones: Migration = {
  name: '0010-arrivals',
  up: async (run) => {
    await run(arrivals);
    await run(phones);
    await run(writing);
    await run(plates);
  }
};
