import { forDefiner, ofDefiner } from './fence';
import type { Migration } from './migration';

/** Each table's own key, and what it refers to: column, then table. */
const references: Record<string, { key: string; to: [column: string, table: string][] }> = {
  user_account: { key: 'user_id', to: [] },
  user_session: { key: 'token_hash', to: [['user_id', 'user_account']] },
  room: { key: 'room_id', to: [] },
  patient: { key: 'patient_id', to: [] },
  visit: {
    key: 'visit_id',
    to: [
      ['patient_id', 'patient'],
      ['room_id', 'room']
    ]
  },
  appointment: {
    key: 'appointment_id',
    to: [
      ['patient_id', 'patient'],
      ['room_id', 'room'],
      ['visit_id', 'visit']
    ]
  },
  tray: { key: 'tray_id', to: [['visit_id', 'visit']] },
  tray_event: { key: '', to: [['tray_id', 'tray']] },
  picture: {
    key: 'picture_id',
    to: [
      ['patient_id', 'patient'],
      ['visit_id', 'visit']
    ]
  },
  picture_level: { key: '', to: [['picture_id', 'picture']] },
  picture_step: {
    key: '',
    to: [
      ['picture_id', 'picture'],
      ['made_by', 'user_account']
    ]
  },
  picture_link: {
    key: '',
    to: [
      ['picture_id', 'picture'],
      ['linked_by', 'user_account']
    ]
  },
  arrival_key: { key: '', to: [['picture_id', 'picture']] },
  device: { key: 'device_id', to: [['room_id', 'room']] },
  arming: {
    key: 'arming_id',
    to: [
      ['device_id', 'device'],
      ['tray_id', 'tray']
    ]
  },
  pseudonym: { key: '', to: [['patient_id', 'patient']] },
  destination: { key: 'destination_id', to: [] },
  parcel: {
    key: 'parcel_id',
    to: [
      ['visit_id', 'visit'],
      ['destination_id', 'destination'],
      ['made_by', 'user_account']
    ]
  },
  delivery: {
    key: 'delivery_id',
    to: [
      ['parcel_id', 'parcel'],
      ['picture_id', 'picture']
    ]
  },
  recent: {
    key: '',
    to: [
      ['user_id', 'user_account'],
      ['patient_id', 'patient']
    ]
  }
};
const keyOf = (table: string) => references[table].key;

/** Every reference carries the clinic, so that no row can ever point into another clinic. */
const clinicInKeys = [
  ...Object.entries(references)
    .filter(([, { key }]) => key !== '')
    .map(([table, { key }]) => `alter table ${table} add unique (clinic_id, ${key});`),
  ...Object.entries(references).flatMap(([table, { to }]) =>
    to.map(
      ([column, target]) => `
alter table ${table} drop constraint ${table}_${column}_fkey;
alter table ${table} add foreign key (clinic_id, ${column}) references ${target} (clinic_id, ${keyOf(target)});`
    )
  )
].join('\n');

/** The functions that answer before a clinic is known belong to a role that may do that and nothing else. */
const definer = `
${forDefiner('user_account', ['select'])}
${forDefiner('user_session', ['select'])}
${forDefiner('clinic', ['select'])}
${forDefiner('device', ['select'])}
${forDefiner('delivery', ['select'])}
${forDefiner('audit_head', ['select', 'insert', 'update'])}
drop function caller_of_session(bytea);
create function caller_of_session(token bytea)
returns table (user_id uuid, clinic_id uuid, role text, display_name text, clinic_name text, notation text, time_zone text)
language sql stable security definer set search_path = public as $body$
  select u.user_id, u.clinic_id, u.role, u.display_name, c.name, c.notation, c.time_zone
  from user_session s join user_account u using (user_id) join clinic c on c.clinic_id = u.clinic_id
  where s.token_hash = token and s.expires_at > now()
$body$;
grant execute on function audit_hash(audit_line) to yonder_definer;
grant create, usage on schema public to yonder_definer;
${[
  'account_to_sign_in(text)',
  'caller_of_session(bytea)',
  'device_of_token(bytea)',
  'clinic_of_enrolment(bytea)',
  'clinic_of_delivery(uuid)'
]
  .map(ofDefiner)
  .join('\n')}
alter function audit_chain() owner to yonder_definer;
revoke create on schema public from yonder_definer;`;

/** Each clinic has a time of its own. Failed sign-ins are counted by a package, in a table of its shape. */
export const keysAndRoles: Migration = {
  name: '0002-keys-and-roles',
  up: async (run) => {
    await run(`alter table clinic add time_zone text not null default 'UTC';
      grant update (time_zone) on clinic to yonder_app;`);
    await run(clinicInKeys);
    await run(definer);
    await run(`
      drop table sign_in_failure;
      create table sign_in_limit (key text primary key, points int not null default 0, expire bigint);
      grant select, insert, update, delete on sign_in_limit to yonder_app;`);
  }
};
