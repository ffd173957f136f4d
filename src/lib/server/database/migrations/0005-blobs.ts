import { fenced } from './fence';
import type { Migration } from './migration';

/**
 * Originals lie in parts, and first, while they are landed, in a file that a job moves in. What was asked once is known
 * by its key, so that asking again does nothing.
 */
export const blobsAndActs: Migration = {
  name: '0005-blobs',
  up: async (run) => {
    await run(`
      create table blob_part (
        clinic_id uuid not null,
        sha256 bytea not null,
        part int not null,
        bytes bytea not null,
        primary key (clinic_id, sha256, part),
        foreign key (clinic_id, sha256) references blob
      );
      alter table blob_part alter column bytes set storage external;
      insert into blob_part (clinic_id, sha256, part, bytes) select clinic_id, sha256, 0, bytes from blob;
      alter table blob add size bigint;
      alter table blob add place text not null default 'kept' check (place in ('landed', 'kept'));
      alter table blob add stored_at timestamptz not null default now();
      update blob set size = length(bytes);
      alter table blob alter size set not null;
      alter table blob drop bytes;
      create index on blob (stored_at) where place = 'landed';
      grant update (place) on blob to yonder_app;
      ${fenced('blob_part', ['select', 'insert'])}`);
    await run(`
      create table done_act (
        clinic_id uuid not null,
        key text not null,
        user_id uuid not null,
        at timestamptz not null default now(),
        answer jsonb not null,
        primary key (clinic_id, key),
        foreign key (clinic_id, user_id) references user_account (clinic_id, user_id)
      );
      create index on done_act (at);
      ${fenced('done_act')}`);
    await run(`
      create table marker (
        clinic_id uuid not null references clinic,
        marker_id uuid not null,
        name text not null,
        size_mm double precision not null check (size_mm > 0),
        tolerance_mm double precision not null check (tolerance_mm >= 0),
        primary key (clinic_id, marker_id),
        unique (clinic_id, name)
      );
      ${fenced('marker')}`);
  }
};
