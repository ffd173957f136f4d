import { type SettingChange, changedColumns, settingWords } from '../../core/people/settingWords';
import { once } from '../acts/once';
import { tellOfSettings, writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { enqueue, queues } from '../jobs/boss';
import { demandAnAdministrator } from '../people/staff';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import type { PatternStand } from '../trays/patternChanges';
import { restorePattern } from '../trays/patternRestore';

/** Tables whose rows are settings: what a row is known by, and what is done with one that was added and can't be deleted. */
const tables: Readonly<Record<string, { key: string; instead?: string }>> = {
  clinic: { key: 'clinic_id' },
  letterhead: { key: 'clinic_id' },
  marker: { key: 'marker_id' },
  printer: { key: 'printer_id' },
  print_layout: { key: 'layout_id', instead: 'dropped_at' },
  room: { key: 'room_id', instead: 'closed_at' },
  device: { key: 'device_id' },
  category: { key: 'category_id', instead: 'dropped_at' },
  own_look: { key: 'look_id' },
  written_guide: { key: 'guide_id' },
  leaving_rule: { key: 'rule_id', instead: 'dropped_at' },
  destination: { key: 'destination_id', instead: 'dropped_at' },
  practice_system: { key: 'clinic_id' },
  known_sender: { key: 'sender_id' },
  colleague: { key: 'colleague_id', instead: 'retired_at' },
  letter_template: { key: 'template_id', instead: 'retired_at' },
  user_account: { key: 'user_id', instead: 'disabled_at' }
};
type Row = Record<string, unknown>;

interface Changed {
  change_id: string;
  table_name: string;
  row_key: string;
  before: Row | null;
  after: Row | null;
  taken_back_at: Date | null;
}

const shown = 100;

/** What was changed of the settings, the newest first. What a letter's template says has versions of its own. */
export async function settingChanges(caller: Caller): Promise<SettingChange[]> {
  await demand(caller, 'change settings', 'settings');
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<{
      seq: string;
      at: Date;
      who: string;
      changes: Omit<Changed, 'change_id' | 'row_key'>[];
    }>(
      `select l.seq, l.at, l.who, jsonb_agg(jsonb_build_object('table_name', c.table_name, 'before', c.before,
         'after', c.after, 'taken_back_at', c.taken_back_at) order by c.change_id) as changes
       from audit_line l join setting_change c on c.clinic_id = l.clinic_id and c.audit_seq = l.seq
       where l.act = any($1) group by l.seq, l.at, l.who order by l.seq desc limit ${shown}`,
      [...tellOfSettings]
    );
    return rows.map(({ seq, at, who, changes }) => ({
      seq: Number(seq),
      at: at.toISOString(),
      who,
      words: changes.map((each) => settingWords(each.table_name, each.before, each.after)).join('; '),
      takenBack: changes.every(({ taken_back_at }) => taken_back_at !== null)
    }));
  });
}

/** Everything that one change did to settings is as it was before, unless somebody has changed it again since. */
export async function takeBackSetting(caller: Caller, key: string, seq: number): Promise<object> {
  await demand(caller, 'change settings', 'settings');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      await tx.sql('select pg_advisory_xact_lock(hashtextextended($1, 4))', `settings ${tx.clinicId}`);
      const changes = await tx.sql<Changed>(
        `select change_id, table_name, row_key, before, after, taken_back_at from setting_change
         where audit_seq = $1 order by change_id desc`,
        seq
      );
      if (changes.length === 0) throw notFound('This change');
      const open = changes
        .filter(({ taken_back_at }) => taken_back_at === null)
        .sort((a, b) => turnOf(a) - turnOf(b));
      for (const change of open) {
        await restore(tx, caller, change);
        // What a rule files is gone through anew.
        if (change.table_name === 'category')
          await enqueue(tx, queues.file, { clinicId: tx.clinicId, categoryId: change.row_key });
      }
      await demandAnAdministrator(tx);
      await tx.sql(
        'update setting_change set taken_back_at = now() where change_id = any($1::bigint[])',
        open.map(({ change_id }) => change_id)
      );
      const words = changes.map((each) => settingWords(each.table_name, each.before, each.after)).join('; ');
      if (open.length > 0)
        await writeAudit(tx, caller, 'setting changed', 'settings', { takenBack: words, line: seq });
      return {};
    })
  );
}

/** What was dropped comes back before what referred to it, and what was added goes last. */
const turnOf = ({ before, after }: Changed): number => (after === null ? 0 : before === null ? 2 : 1);

async function restore(tx: Tx, caller: Caller, change: Changed): Promise<void> {
  const { table_name: table, row_key, before, after } = change;
  if (table === 'pattern') return restoreOfPattern(tx, caller, change);
  const of = tables[table];
  if (!of) throw notFound('This setting');
  const [now] = await tx.sql<{ row: Row }>(
    `select to_jsonb(t) as row from ${table} t where t.${of.key} = $1 for update`,
    row_key
  );
  if (!isSame(now?.row ?? null, before, after)) throw changedSince(settingWords(table, before, after));
  const record = `jsonb_populate_record(null::${table}, $2::jsonb)`;
  try {
    if (before && after) {
      if (table === 'device') await demandOpenRoom(tx, before, after);
      const columns = changedColumns(before, after);
      const set = columns.map((name) => `"${name}" = (${record})."${name}"`).join(', ');
      await tx.sql(`update ${table} set ${set} where ${of.key} = $1`, row_key, JSON.stringify(before));
    } else if (before) {
      const columns = Object.keys(before).map((name) => `"${name}"`);
      await tx.sql(
        `insert into ${table} (${columns.join(', ')}) select ${columns.join(', ')} from ${record.replace('$2', '$1')}`,
        JSON.stringify(before)
      );
    } else if (of.instead)
      await tx.sql(`update ${table} set ${of.instead} = now() where ${of.key} = $1`, row_key);
    else await tx.sql(`delete from ${table} where ${of.key} = $1`, row_key);
  } catch (error) {
    const code = (error as { parent?: { code?: string } }).parent?.code ?? '';
    // Something hangs on it, or another one has its name by now.
    if (code !== '23503' && code !== '23505') throw error;
    throw new Problem(
      'setting-in-use',
      code === '23503'
        ? 'This can’t be taken back: something else in the records hangs on it.'
        : 'This can’t be taken back: another one has its name by now.',
      'Change it by hand.',
      409
    );
  }
}

/** What a pattern says has versions: the former one comes again as the next. */
async function restoreOfPattern(tx: Tx, caller: Caller, { row_key, before, after }: Changed): Promise<void> {
  const stands = [before, after] as unknown as [PatternStand | null, PatternStand];
  if (!(await restorePattern(tx, caller, row_key, ...stands)))
    throw changedSince(settingWords('pattern', before, after));
}

/** @throws Problem where a device would be put back into a room that is closed by now */
async function demandOpenRoom(tx: Tx, before: Row, after: Row): Promise<void> {
  if (before.room_id === after.room_id) return;
  const open = await tx.one(
    'select 1 from room where room_id = $1::uuid and closed_at is null',
    before.room_id
  );
  if (!open)
    throw new Problem(
      'room-closed',
      'This can’t be taken back: the room that the device stood in is closed.',
      'Take back that the room was closed first, or move the device by hand.',
      409
    );
}

/** What a change left is what is there; what it did not touch may have been changed since. */
function isSame(now: Row | null, before: Row | null, after: Row | null): boolean {
  if (now === null || after === null) return now === after;
  const columns = before ? changedColumns(before, after) : Object.keys(after);
  return columns.every((name) => JSON.stringify(now[name]) === JSON.stringify(after[name]));
}

const changedSince = (words: string): Problem =>
  new Problem(
    'setting-changed-since',
    `“${words}” was changed again since.`,
    'Take the later change back first, or change it by hand.',
    409
  );
