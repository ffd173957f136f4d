import { fenced } from './fence';
import type { Migration } from './migration';

/** What a room begins with, the keys of its pedal, and what each operator took there the last time. */
const rooms = `
alter table room add usual_pattern uuid, add opens_armed boolean not null default false,
  add pedal jsonb not null default '{}';
create table habit (
  clinic_id uuid not null references clinic,
  user_id uuid not null,
  room_id uuid not null,
  what text not null,
  value text not null,
  at timestamptz not null default now(),
  primary key (clinic_id, user_id, room_id, what),
  foreign key (clinic_id, user_id) references user_account (clinic_id, user_id),
  foreign key (clinic_id, room_id) references room (clinic_id, room_id)
);
${fenced('habit')}
alter table arming add user_id uuid;`;

/** A pattern for one visit only; what one act did to trays; slots that no pattern has. */
const trays = `
alter table pattern add visit_id uuid;
alter table pattern add foreign key (clinic_id, visit_id) references visit (clinic_id, visit_id);
alter table tray_event add act text;
create index on tray_event (clinic_id, act) where act is not null;
alter table standing add slot jsonb;
create function put_standing(visit uuid, tray uuid, its_seq int, every jsonb) returns void
language plpgsql set search_path = public as $body$
begin
  insert into standing (clinic_id, picture_id, visit_id, tray_id, slot_id, slot, pattern_id, pattern_version,
      keeper, confirmed, place_keys)
    select current_setting('yonder.clinic_id')::uuid, (s->>'takeId')::uuid, visit, tray, s->>'slotId',
      nullif(s->'slot', 'null'), (s->'pattern'->>'id')::uuid, (s->'pattern'->>'version')::int,
      (s->>'keeper')::boolean, (s->>'confirmed')::boolean, array(select jsonb_array_elements_text(s->'placeKeys'))
    from jsonb_array_elements(every) s
    on conflict (clinic_id, picture_id) do update set tray_id = excluded.tray_id, slot_id = excluded.slot_id,
      slot = excluded.slot, pattern_id = excluded.pattern_id, pattern_version = excluded.pattern_version,
      keeper = excluded.keeper, confirmed = excluded.confirmed, place_keys = excluded.place_keys;
  update tray t set standing_seq = its_seq where t.tray_id = tray;
end $body$;
grant execute on function put_standing(uuid, uuid, int, jsonb) to yonder_app;`;

/** Beside the devices that wait for the tray, all others of the room: the next slot may want another one. */
const context = `
create or replace function exposure_context(token bytea, arrival text, arming uuid) returns jsonb
language sql stable security definer set search_path = public as $body$
  select jsonb_build_object(
    'deviceId', d.device_id, 'clinicId', d.clinic_id, 'name', d.name, 'kind', d.kind,
    'known', (select picture_id from arrival_key k
              where k.clinic_id = d.clinic_id and k.key = d.device_id || ':' || arrival),
    'armed', (select jsonb_build_object(
        'slotId', a.slot_id, 'trayId', t.tray_id, 'trayNumber', t.number, 'visitId', v.visit_id, 'patientId', v.patient_id,
        'userId', a.user_id,
        'events', (select coalesce(jsonb_agg(jsonb_build_object('seq', e.seq, 'kind', e.kind, 'version', e.version, 'body', e.body)
                     order by e.seq), '[]') from tray_event e where e.clinic_id = t.clinic_id and e.tray_id = t.tray_id),
        'devices', (select coalesce(jsonb_agg(jsonb_build_object('deviceId', o.device_id, 'kind', o.kind,
                      'absent', o.lamp = 'absent', 'trayId', oa.tray_id, 'slotId', oa.slot_id)), '[]')
                    from device o left join arming oa using (arming_id)
                    where o.clinic_id = t.clinic_id and (o.room_id = v.room_id or oa.tray_id = t.tray_id)))
      from arming a join tray t using (tray_id) join visit v using (visit_id)
      where a.arming_id = arming and a.device_id = d.device_id and a.clinic_id = d.clinic_id))
  from device d where d.token_hash = token
$body$;`;

/** The same as before, but for slots that no pattern has, and for who got the devices ready. */
const store = `
create or replace function store_exposure(p jsonb) returns text language plpgsql set search_path = public as $body$
declare
  clinic uuid := current_setting('yonder.clinic_id')::uuid;
  its_id uuid := (p->>'pictureId')::uuid;
  its_tray uuid := (p->>'trayId')::uuid;
  its_visit uuid := (p->>'visitId')::uuid;
  digest bytea := decode(p->>'sha256', 'hex');
  known uuid;
  its_number int;
begin
  perform 1 from tray where tray_id = its_tray for update;
  select picture_id into known from arrival_key where key = p->>'key';
  if known is not null then return 'known ' || known; end if;
  if (select coalesce(max(seq), 0) from tray_event where tray_id = its_tray) <> (p->>'seq')::int then
    return 'moved on';
  end if;
  insert into blob (clinic_id, sha256, size, place) values (clinic, digest, (p->>'size')::bigint, p->>'place')
    on conflict (clinic_id, sha256) do nothing;
  insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source,
      width, height, channels, bits_stored, sample_offset, frames, frame_ms, kind, facts, first_look, taken_at, instance_uid, number)
    select its_id, clinic, (p->>'patientId')::uuid, its_visit, digest, p->>'mediaType', p->>'fileName', p->>'source',
      (p->>'width')::int, (p->>'height')::int, (p->>'channels')::int, (p->>'bitsStored')::int, (p->>'offset')::int,
      (p->>'frames')::int, (p->>'frameMs')::real, p->>'kind', p->'facts', p->'firstLook', (p->>'takenAt')::timestamptz,
      p->>'instanceUid', coalesce(max(number), 0) + 1
    from picture where visit_id = its_visit returning number into its_number;
  insert into arrival_key (clinic_id, key, picture_id) values (clinic, p->>'key', its_id);
  insert into tray_event (clinic_id, tray_id, seq, kind, version, body, caused_by)
    select clinic, its_tray, (e->>'seq')::int, e->>'kind', (e->>'version')::int, e->'body', p->>'by'
    from jsonb_array_elements(p->'events') e;
  perform put_standing(its_visit, its_tray, (p->>'standingSeq')::int, p->'standing');
  insert into arming (arming_id, clinic_id, device_id, tray_id, slot_id, user_id)
    select (a->>'armingId')::uuid, clinic, (a->>'deviceId')::uuid, its_tray, a->>'slotId', (p->>'userId')::uuid
    from jsonb_array_elements(p->'arming') a where a->>'armingId' is not null;
  update device set arming_id = (a->>'armingId')::uuid
    from jsonb_array_elements(p->'arming') a where device_id = (a->>'deviceId')::uuid;
  insert into pgboss.job (name, data, start_after, retry_limit, retry_delay, retry_backoff, expire_in, keep_until, policy)
    select q.name, jsonb_build_object('clinicId', clinic, 'pictureId', its_id),
      now() + (j->>'afterSeconds')::numeric * interval '1 second', 20, 2, true,
      (j->>'expireSeconds')::int * interval '1 second', now() + interval '14 days', q.policy
    from jsonb_array_elements(p->'jobs') j join pgboss.queue q on q.name = j->>'queue';
  return 'stored ' || its_number;
end $body$;`;

/** What the computer saw in a take, and who said that it was not so. */
const advice = `
create table picture_advice (
  clinic_id uuid not null references clinic,
  picture_id uuid not null,
  -- Of the code that looked: advice of an earlier one is worked out anew.
  version int not null,
  found jsonb not null,
  at timestamptz not null default now(),
  primary key (clinic_id, picture_id),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id)
);
${fenced('picture_advice', ['select', 'insert', 'update'])}
create table advice_denied (
  clinic_id uuid not null references clinic,
  picture_id uuid not null,
  kind text not null,
  user_id uuid not null,
  at timestamptz not null default now(),
  primary key (clinic_id, picture_id, kind),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id),
  foreign key (clinic_id, user_id) references user_account (clinic_id, user_id)
);
${fenced('advice_denied')}`;

export const chair: Migration = {
  name: '0008-chair',
  up: async (run) => {
    await run(rooms);
    await run(trays);
    await run(context);
    await run(store);
    await run(advice);
  }
};
