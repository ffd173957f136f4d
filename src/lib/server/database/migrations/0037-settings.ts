import { fenced } from './fence';
import type { Migration } from './migration';

/** Tables whose rows are settings: what a row is known by, and what of it is not a setting. */
const settings: readonly { table: string; key: string; beside?: readonly string[]; when?: string }[] = [
  {
    table: 'clinic',
    key: 'clinic_id',
    beside: ['secret']
  },
  { table: 'letterhead', key: 'clinic_id' },
  { table: 'marker', key: 'marker_id' },
  { table: 'printer', key: 'printer_id' },
  { table: 'room', key: 'room_id' },
  { table: 'own_look', key: 'look_id' },
  { table: 'written_guide', key: 'guide_id' },
  { table: 'leaving_rule', key: 'rule_id' },
  { table: 'destination', key: 'destination_id' },
  { table: 'known_sender', key: 'sender_id' },
  { table: 'colleague', key: 'colleague_id' },
  // What it says has versions of its own.
  { table: 'letter_template', key: 'template_id', when: 'update of retired_at' }
];

/**
 * Every change of a setting leaves what was there before and what is there now, so that it can be taken back. Which line
 * of the audit tells of it is noted when that line is written.
 */
const changes = `
create table setting_change (
  clinic_id uuid not null references clinic,
  change_id bigint generated always as identity,
  transaction text not null default pg_current_xact_id()::text,
  audit_seq bigint,
  table_name text not null,
  row_key uuid not null,
  before jsonb,
  after jsonb,
  taken_back_at timestamptz,
  primary key (clinic_id, change_id)
);
create index on setting_change (clinic_id, audit_seq);
create index on setting_change (transaction) where audit_seq is null;
${fenced('setting_change', ['select', 'insert', 'update'])}
create function note_setting() returns trigger language plpgsql set search_path = public as $body$
declare
  beside text[] := tg_argv[1]::text[];
  was jsonb := case when tg_op = 'INSERT' then null else to_jsonb(old) - beside end;
  is_now jsonb := case when tg_op = 'DELETE' then null else to_jsonb(new) - beside end;
  one jsonb := coalesce(is_now, was);
begin
  -- What no clinic has asked for, as an upgrade of the product, is no change of a setting.
  if was is distinct from is_now and current_setting('yonder.clinic_id', true) <> '' then
    insert into setting_change (clinic_id, table_name, row_key, before, after)
      values ((one->>'clinic_id')::uuid, tg_table_name, (one->>tg_argv[0])::uuid, was, is_now);
  end if;
  return null;
end $body$;
${settings
  .map(
    ({ table, key, beside = [], when = 'insert or update or delete' }) =>
      `create trigger note_setting after ${when} on ${table}
         for each row execute function note_setting('${key}', '{${beside.join(',')}}');`
  )
  .join('\n')}`;

export const settingsTakenBack: Migration = {
  name: '0037-settings',
  up: (run) => run(changes)
};
