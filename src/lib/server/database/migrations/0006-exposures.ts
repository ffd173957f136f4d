import { forDefiner, ofDefiner } from './fence';
import type { Migration } from './migration';

/**
 * What an exposure's arrival has to know before anything is written, in one question: whose token this is, whether its
 * key is known, what it was armed for, and how the tray stands. Asked before a clinic is known.
 */
const context = `
create function exposure_context(token bytea, arrival text, arming uuid) returns jsonb
language sql stable security definer set search_path = public as $body$
  select jsonb_build_object(
    'deviceId', d.device_id, 'clinicId', d.clinic_id, 'name', d.name, 'kind', d.kind,
    'known', (select picture_id from arrival_key k
              where k.clinic_id = d.clinic_id and k.key = d.device_id || ':' || arrival),
    'armed', (select jsonb_build_object(
        'slotId', a.slot_id, 'trayId', t.tray_id, 'trayNumber', t.number, 'visitId', v.visit_id, 'patientId', v.patient_id,
        'events', (select coalesce(jsonb_agg(jsonb_build_object('seq', e.seq, 'kind', e.kind, 'version', e.version, 'body', e.body)
                     order by e.seq), '[]') from tray_event e where e.clinic_id = t.clinic_id and e.tray_id = t.tray_id),
        'devices', (select coalesce(jsonb_agg(jsonb_build_object('deviceId', o.device_id, 'slotId', oa.slot_id)), '[]')
                    from device o join arming oa using (arming_id) where o.clinic_id = t.clinic_id and oa.tray_id = t.tray_id))
      from arming a join tray t using (tray_id) join visit v using (visit_id)
      where a.arming_id = arming and a.device_id = d.device_id and a.clinic_id = d.clinic_id))
  from device d where d.token_hash = token
$body$;
${['arming', 'tray', 'visit', 'tray_event', 'arrival_key'].map((table) => forDefiner(table, ['select'])).join('')}
grant create on schema public to yonder_definer;
${ofDefiner('exposure_context(bytea, text, uuid)')}
revoke create on schema public from yonder_definer;`;

/**
 * Everything that an exposure makes, but for what is known only when its last byte has come: picture, key, events of
 * the tray, where takes lie, what devices wait for, and the job that follows. Works inside the fence of its clinic.
 * Gives 'stored <its number in the visit>', 'known <picture>' when the key came before, or 'moved on' when the tray has
 * other events by now than the ones this was worked out from.
 */
const store = `
create function store_exposure(p jsonb) returns text language plpgsql set search_path = public as $body$
declare
  clinic uuid := current_setting('yonder.clinic_id')::uuid;
  its_id uuid := (p->>'pictureId')::uuid;
  digest bytea := decode(p->>'sha256', 'hex');
  known uuid;
  its_number int;
begin
  perform 1 from tray where tray_id = (p->>'trayId')::uuid for update;
  select picture_id into known from arrival_key where key = p->>'key';
  if known is not null then return 'known ' || known; end if;
  if (select coalesce(max(seq), 0) from tray_event where tray_id = (p->>'trayId')::uuid) <> (p->>'seq')::int then
    return 'moved on';
  end if;
  insert into blob (clinic_id, sha256, size, place) values (clinic, digest, (p->>'size')::bigint, p->>'place')
    on conflict (clinic_id, sha256) do nothing;
  insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source,
      width, height, channels, bits_stored, sample_offset, frames, frame_ms, kind, facts, first_look, taken_at, instance_uid, number)
    select its_id, clinic, (p->>'patientId')::uuid, (p->>'visitId')::uuid, digest, p->>'mediaType', p->>'fileName', p->>'source',
      (p->>'width')::int, (p->>'height')::int, (p->>'channels')::int, (p->>'bitsStored')::int, (p->>'offset')::int,
      (p->>'frames')::int, (p->>'frameMs')::real, p->>'kind', p->'facts', p->'firstLook', (p->>'takenAt')::timestamptz,
      p->>'instanceUid', coalesce(max(number), 0) + 1
    from picture where visit_id = (p->>'visitId')::uuid returning number into its_number;
  insert into arrival_key (clinic_id, key, picture_id) values (clinic, p->>'key', its_id);
  insert into tray_event (clinic_id, tray_id, seq, kind, version, body, caused_by)
    select clinic, (p->>'trayId')::uuid, (e->>'seq')::int, e->>'kind', (e->>'version')::int, e->'body', p->>'by'
    from jsonb_array_elements(p->'events') e;
  insert into standing (clinic_id, picture_id, visit_id, tray_id, slot_id, pattern_id, pattern_version,
      keeper, confirmed, place_keys)
    select clinic, (s->>'takeId')::uuid, (p->>'visitId')::uuid, (p->>'trayId')::uuid, s->>'slotId',
      (s->'pattern'->>'id')::uuid, (s->'pattern'->>'version')::int, (s->>'keeper')::boolean, (s->>'confirmed')::boolean, array(select jsonb_array_elements_text(s->'placeKeys'))
    from jsonb_array_elements(p->'standing') s
    on conflict (clinic_id, picture_id) do update set tray_id = excluded.tray_id, slot_id = excluded.slot_id,
      pattern_id = excluded.pattern_id, pattern_version = excluded.pattern_version,
      keeper = excluded.keeper, confirmed = excluded.confirmed, place_keys = excluded.place_keys;
  update tray set standing_seq = (p->>'standingSeq')::int where tray_id = (p->>'trayId')::uuid;
  insert into arming (arming_id, clinic_id, device_id, tray_id, slot_id)
    select (a->>'armingId')::uuid, clinic, (a->>'deviceId')::uuid, (p->>'trayId')::uuid, a->>'slotId'
    from jsonb_array_elements(p->'arming') a where a->>'armingId' is not null;
  update device set arming_id = (a->>'armingId')::uuid
    from jsonb_array_elements(p->'arming') a where device_id = (a->>'deviceId')::uuid;
  insert into pgboss.job (name, data, start_after, retry_limit, retry_delay, retry_backoff, expire_in, keep_until, policy)
    select q.name, jsonb_build_object('clinicId', clinic, 'pictureId', its_id),
      now() + (p->'job'->>'afterSeconds')::numeric * interval '1 second', 20, 2, true,
      (p->'job'->>'expireSeconds')::int * interval '1 second', now() + interval '14 days', q.policy
    from pgboss.queue q where q.name = p->'job'->>'queue';
  return 'stored ' || its_number;
end $body$;
grant execute on function store_exposure(jsonb) to yonder_app;`;

/** The last of it, once the bytes are safe: the first look, the audit line, and the news. Committed at once after it. */
const finish = `
create function finish_exposure(p jsonb) returns void language plpgsql set search_path = public as $body$
begin
  update picture set first_look = p->'firstLook' where picture_id = (p->>'pictureId')::uuid;
  insert into audit_line (clinic_id, seq, at, who, act, subject, details, previous_hash, hash)
    values (current_setting('yonder.clinic_id')::uuid, 0, now(), p->>'by', p->>'act', p->>'pictureId', p->'details', '', '');
  perform pg_notify(p->>'channel', n::text) from jsonb_array_elements(p->'news') n;
end $body$;
grant execute on function finish_exposure(jsonb) to yonder_app;
grant update (first_look) on picture to yonder_app;`;

/** Devices that have not been heard of for a while, marked so once; whoever follows the clinic is told by the caller. */
const silent = `
create function silent_devices(seconds int) returns table (device_id uuid, clinic_id uuid)
language sql security definer set search_path = public as $body$
  update device set lamp = 'absent', lamp_words = ''
  where lamp <> 'absent' and lamp_at < now() - make_interval(secs => seconds)
  returning device_id, clinic_id
$body$;
${forDefiner('device', ['update'])}
grant create on schema public to yonder_definer;
${ofDefiner('silent_devices(int)')}
revoke create on schema public from yonder_definer;`;

/** How many originals still lie in files, over all clinics: what a keeper of the machine wants to know. */
const landed = `
create function landed_count() returns bigint language sql stable security definer set search_path = public as $body$
  select count(*) from blob where place = 'landed'
$body$;
${forDefiner('blob', ['select'])}
grant create on schema public to yonder_definer;
${ofDefiner('landed_count()')}
revoke create on schema public from yonder_definer;`;

/** All clinics, for what is looked after in each of them in turn. */
const clinics = `
create function clinic_ids() returns table (clinic_id uuid) language sql stable security definer set search_path = public as $body$
  select clinic_id from clinic
$body$;
grant create on schema public to yonder_definer;
${ofDefiner('clinic_ids()')}
revoke create on schema public from yonder_definer;`;

export const exposures: Migration = {
  name: '0006-exposures',
  up: async (run) => {
    await run(context);
    await run(store);
    await run(finish);
    await run(silent);
    await run(landed);
    await run(clinics);
  }
};
