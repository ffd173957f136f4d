import type { Migration } from './migration';

/**
 * What is asked at every request and every exposure, as before; only the plan of it is kept by each connection, where one
 * was made anew for every call, which took longer than the asking.
 */
const asked = `
create or replace function caller_of_session(token bytea)
returns table (user_id uuid, clinic_id uuid, role text, display_name text, clinic_name text, notation text,
  time_zone text, language text)
language plpgsql stable security definer set search_path = public as $body$
#variable_conflict use_column
begin
  return query select u.user_id, u.clinic_id, u.role, u.display_name, c.name, c.notation, c.time_zone, c.language
    from user_session s join user_account u using (user_id) join clinic c on c.clinic_id = u.clinic_id
    where s.token_hash = token and s.expires_at > now() and u.disabled_at is null;
end $body$;
create or replace function exposure_context(token bytea, arrival text, arming uuid) returns jsonb
language plpgsql stable security definer set search_path = public as $body$
begin
  return (select jsonb_build_object(
    'deviceId', d.device_id, 'clinicId', d.clinic_id, 'name', d.name, 'kind', d.kind,
    'opensWith', (select l.body->'look' from own_look l where l.clinic_id = d.clinic_id and l.look_id = d.opens_with),
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
  from device d where d.token_hash = token);
end $body$;`;

/** Where a picture can be found, written down again at each change of its places. */
const noted = `
create or replace function note_places(picture uuid) returns void language plpgsql as $body$
begin
  delete from picture_at a where a.picture_id = picture;
  insert into picture_at (clinic_id, place_key, picture_id, patient_id, kind, taken_at)
    select p.clinic_id, shown.key, p.picture_id, p.patient_id, p.kind, p.taken_at
    from picture p cross join lateral (
      select l.place_key as key from picture_place l
        where p.placed and l.clinic_id = p.clinic_id and l.picture_id = p.picture_id
      union select unnest(s.place_keys) from standing s
        where not p.placed and s.keeper and s.clinic_id = p.clinic_id and s.picture_id = p.picture_id) shown
    where p.picture_id = picture and p.away is null;
end $body$;`;

/** How devices stand, for the pages of their rooms. */
const lamps = `
create function lamps_of(devices uuid[])
returns table (device_id uuid, room_id uuid, name text, kind text, lamp text, lamp_words text, finenesses jsonb, fineness text,
  slot_id text, tray_id uuid, visit_id uuid, patient text, by_name text)
language plpgsql stable set search_path = public as $body$
#variable_conflict use_column
begin
  return query select d.device_id, d.room_id, d.name, d.kind, d.lamp, d.lamp_words, d.finenesses, d.fineness,
      a.slot_id, a.tray_id, t.visit_id, trim(p.given_name || ' ' || p.family_name), u.display_name
    from device d left join arming a using (arming_id) left join tray t on t.tray_id = a.tray_id
    left join visit v on v.visit_id = t.visit_id left join patient p on p.patient_id = v.patient_id
    left join user_account u on u.user_id = a.user_id
    where d.device_id = any(devices);
end $body$;
grant execute on function lamps_of(uuid[]) to yonder_app;`;

export const keptPlans: Migration = {
  name: '0050-kept-plans',
  up: async (run) => {
    await run(asked);
    await run(noted);
    await run(lamps);
  }
};
