import { fenced } from './fence';
import type { Migration } from './migration';

/** As they were shipped when this was written. */
const fourBitewings = {
  pattern: '018f0000-0000-7000-8000-000000000401',
  route: '018f0000-0000-7000-8000-000000000402'
};
const fullMouth = {
  pattern: '018f0000-0000-7000-8000-000000001801',
  route: '018f0000-0000-7000-8000-000000001802'
};

const patterns = `
create table pattern (
  clinic_id uuid not null references clinic,
  pattern_id uuid not null,
  version int not null check (version > 0),
  name text not null,
  trade text not null,
  slots_version int not null,
  slots jsonb not null,
  made_by uuid,
  made_at timestamptz not null default now(),
  retired_at timestamptz,
  primary key (clinic_id, pattern_id, version),
  foreign key (clinic_id, made_by) references user_account (clinic_id, user_id)
);
create table route (
  clinic_id uuid not null references clinic,
  route_id uuid not null,
  version int not null check (version > 0),
  pattern_id uuid not null,
  pattern_version int not null,
  name text not null,
  slot_order jsonb not null,
  -- Whose own route it is; nobody's is everybody's.
  user_id uuid,
  made_at timestamptz not null default now(),
  primary key (clinic_id, route_id, version),
  foreign key (clinic_id, pattern_id, pattern_version) references pattern,
  foreign key (clinic_id, user_id) references user_account (clinic_id, user_id)
);
create index on route (clinic_id, pattern_id, pattern_version);
${fenced('pattern', ['select', 'insert'])}
${fenced('route', ['select', 'insert'])}
grant update (name, retired_at) on pattern to yonder_app;`;

/** Events say their kind and version beside their body. A visit may have several trays. */
const events = `
alter table tray drop constraint tray_visit_id_key;
alter table tray add number int not null default 1 check (number > 0);
alter table tray add standing_seq int not null default 0;
alter table tray add unique (clinic_id, visit_id, number);
alter table tray_event add kind text;
alter table tray_event add version int;
alter table tray_event add user_id uuid;
update tray_event set kind = body->>'kind', version = 1, body = body - 'kind';
alter table tray_event alter kind set not null, alter version set not null;
alter table tray_event add foreign key (clinic_id, user_id) references user_account (clinic_id, user_id);`;

/**
 * Events that laid a tray held their whole pattern. Those that came with the product are named by their fixed ids; any
 * other becomes a pattern of its clinic, retired, so that its trays stay what they are.
 */
const laidPatterns = `
create temporary table laid on commit drop as
  select distinct on (clinic_id, body->'pattern'->>'name') clinic_id, body->'pattern'->>'name' as name, body->'pattern' as whole,
    case body->'pattern'->>'name'
      when 'Four bitewings' then '${fourBitewings.pattern}'::uuid
      when 'Full mouth' then '${fullMouth.pattern}'::uuid else gen_random_uuid() end as pattern_id,
    case body->'pattern'->>'name'
      when 'Four bitewings' then '${fourBitewings.route}'::uuid
      when 'Full mouth' then '${fullMouth.route}'::uuid else gen_random_uuid() end as route_id,
    body->'pattern'->>'name' in ('Four bitewings', 'Full mouth') as shipped
  from tray_event where kind = 'tray-laid' order by clinic_id, body->'pattern'->>'name', tray_id, seq;
insert into pattern (clinic_id, pattern_id, version, name, trade, slots_version, slots, retired_at)
  select clinic_id, pattern_id, 1, name, 'teeth', 1, (
    select jsonb_agg(jsonb_build_object(
      'id', s->'id', 'name', s->'name', 'projection', s->'projection', 'orientation', s->'orientation',
      'directions', s->'directions', 'at', s->'place',
      'shape', case when (s->'orientation'->>'quarterTurns')::int % 2 = 1 then 'lying' else 'standing' end,
      'places', (select coalesce(jsonb_agg(jsonb_build_object('kind', 'tooth', 'tooth', t)), '[]') from jsonb_array_elements(s->'teeth') t)))
    from jsonb_array_elements(whole->'slots') s), now()
  from laid where not shipped;
insert into route (clinic_id, route_id, version, pattern_id, pattern_version, name, slot_order)
  select clinic_id, route_id, 1, pattern_id, 1, 'Usual route', whole->'route' from laid where not shipped;
update tray_event e set version = 2, body = jsonb_build_object(
    'pattern', jsonb_build_object('id', l.pattern_id, 'version', 1), 'route', jsonb_build_object('id', l.route_id, 'version', 1))
  from laid l where e.kind = 'tray-laid' and e.clinic_id = l.clinic_id and e.body->'pattern'->>'name' = l.name;`;

/** Where each take lies now, for what can't fold every tray it looks at. A cache: it follows from the events. */
const standing = `
create table standing (
  clinic_id uuid not null,
  picture_id uuid not null,
  visit_id uuid not null,
  tray_id uuid not null,
  slot_id text,
  pattern_id uuid,
  pattern_version int,
  keeper boolean not null,
  confirmed boolean not null,
  place_keys text[] not null,
  primary key (clinic_id, picture_id),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id),
  foreign key (clinic_id, visit_id) references visit (clinic_id, visit_id),
  foreign key (clinic_id, tray_id) references tray (clinic_id, tray_id),
  foreign key (clinic_id, pattern_id, pattern_version) references pattern
);
create index on standing (clinic_id, visit_id);
create index on standing (clinic_id, tray_id);
${fenced('standing')}`;

export const patternsAndEvents: Migration = {
  name: '0003-patterns-and-events',
  up: async (run) => {
    await run(patterns);
    await run(events);
    await run(laidPatterns);
    await run(standing);
  }
};
