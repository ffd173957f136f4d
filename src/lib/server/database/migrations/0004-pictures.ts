import { fenced } from './fence';
import type { Migration } from './migration';

/**
 * A look that was one window becomes a list of steps. Kept as it is here for ever: what the list can hold may grow, this
 * reading of the first version may not change.
 */
const lookOf = (column: string) => `jsonb_build_object('steps',
  jsonb_build_array(jsonb_build_object('kind', 'window', 'by', 'linear',
    'center', ${column}->'window'->'center', 'width', ${column}->'window'->'width'))
  || case when (${column}->>'inverted')::boolean then '[{"kind": "invert"}]'::jsonb else '[]'::jsonb end)`;

const modality = `(select each->>'text' from jsonb_array_elements(facts->'fileAttributes') each
  where each->>'tag' = '00080060' limit 1)`;

/** Pictures are of a kind, have one or many frames, and their first look beside their facts. */
const pictures = `
alter table picture add kind text;
alter table picture add frames int not null default 1 check (frames > 0);
alter table picture add frame_ms real;
alter table picture add first_look jsonb;
update picture set
  first_look = ${lookOf("(facts->'firstLook')")},
  facts = (facts - 'firstLook') || '{"version": 2}',
  kind = case
    when source = 'device' and facts ? 'imagerPixelSpacing' then 'radiograph'
    when ${modality} in ('DX', 'CR', 'IO', 'PX', 'DR', 'RG', 'MG') then 'radiograph'
    when ${modality} = 'US' then 'ultrasound'
    when ${modality} in ('XC', 'GM') then 'photograph'
    else 'other' end;
alter table picture alter kind set not null, alter first_look set not null;
alter table picture add check (kind in ('radiograph', 'photograph', 'ultrasound', 'rings', 'other'));
create index on picture (clinic_id, patient_id, taken_at desc, picture_id);`;

/** Levels are kept a frame each, compressed only where that saves anything; previews are kept by what they show. */
const levels = `
alter table picture_level rename zipped to bytes;
alter table picture_level add frame int not null default 0;
alter table picture_level add encoding text not null default 'gzip' check (encoding in ('gzip', 'identity'));
alter table picture_level drop constraint picture_level_pkey;
alter table picture_level add primary key (picture_id, frame, level);
create table picture_preview (
  clinic_id uuid not null,
  picture_id uuid not null,
  key text not null,
  webp bytea not null,
  made_at timestamptz not null default now(),
  primary key (clinic_id, picture_id, key),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id)
);
${fenced('picture_preview', ['select', 'insert', 'delete'])}`;

/** A step names its kind, the one it is of where there are several, and its version; steps of one act go together. */
const steps = `
alter table picture_step add kind text;
alter table picture_step add item text;
alter table picture_step add version int;
alter table picture_step add act text;
update picture_step set
  kind = case when layer like 'reading:%' then 'length' else layer end,
  item = case when layer like 'reading:%' then substr(layer, 9) end,
  version = 1,
  act = key;
alter table picture_step alter kind set not null, alter version set not null, alter act set not null;
alter table picture_step drop constraint picture_step_picture_id_key_key;
alter table picture_step drop layer;
alter table picture_step drop key;`;

/** Pictures are linked to places of any kind. */
const places = `
create table picture_place (
  clinic_id uuid not null,
  picture_id uuid not null,
  place_key text not null,
  place jsonb not null,
  linked_by uuid not null,
  primary key (clinic_id, picture_id, place_key),
  foreign key (clinic_id, picture_id) references picture (clinic_id, picture_id),
  foreign key (clinic_id, linked_by) references user_account (clinic_id, user_id)
);
insert into picture_place (clinic_id, picture_id, place_key, place, linked_by)
  select clinic_id, picture_id, 'tooth:' || tooth, jsonb_build_object('kind', 'tooth', 'tooth', tooth), linked_by
  from picture_link;
drop table picture_link;
create index on picture_place (clinic_id, place_key);
${fenced('picture_place', ['select', 'insert', 'delete'])}`;

export const picturesOfEveryKind: Migration = {
  name: '0004-pictures',
  up: async (run) => {
    await run(pictures);
    await run(levels);
    await run(steps);
    await run(places);
  }
};
