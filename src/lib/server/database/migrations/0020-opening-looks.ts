import { forDefiner } from './fence';
import type { Migration } from './migration';

/** One of the clinic's own looks that a device's pictures open with. */
const openingLooks = `
alter table device add opens_with uuid,
  add foreign key (clinic_id, opens_with) references own_look (clinic_id, look_id) on delete set null (opens_with);
${forDefiner('own_look', ['select'])}
create or replace function exposure_context(token bytea, arrival text, arming uuid) returns jsonb
language sql stable security definer set search_path = public as $body$
  select jsonb_build_object(
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
  from device d where d.token_hash = token
$body$;`;

export const looksToOpenWith: Migration = {
  name: '0020-opening-looks',
  up: async (run) => {
    await run(openingLooks);
  }
};
