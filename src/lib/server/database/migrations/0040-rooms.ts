import type { Migration } from './migration';

/** Rooms that are closed and devices that are retired: what was taken there and by them stays as it is. */
const rooms = `
alter table room add closed_at timestamptz;
alter table device add retired_at timestamptz;
-- What is set of a device is a setting; what it says of itself is none. Whether it is let in is no matter of one press.
create trigger note_setting after update of name, room_id, opens_with on device
  for each row when (old.retired_at is not distinct from new.retired_at)
  execute function note_setting('device_id',
    '{token_hash,kind,lamp,lamp_words,lamp_at,arming_id,ready_seconds,finenesses,fineness,retired_at}');`;

export const roomsClosed: Migration = { name: '0040-rooms', up: (run) => run(rooms) };
