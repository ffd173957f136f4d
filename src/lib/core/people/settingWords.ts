import { type Notation, notationNames } from '../anatomy/teeth';
import { zoneWords } from '../time/clinicTime';
import { languageName } from '../time/language';

/** A change of a setting as a page tells it. */
export interface SettingChange {
  /** Of the line of the audit that tells of it. */
  seq: number;
  at: string;
  who: string;
  /** What was changed, in words. */
  words: string;
  takenBack: boolean;
}

const things: Readonly<Record<string, string>> = {
  clinic: 'The clinic',
  letterhead: 'The head of papers',
  marker: 'Things of known size',
  printer: 'Printers',
  print_layout: 'Print layouts',
  room: 'Rooms',
  device: 'Devices',
  category: 'Categories',
  pattern: 'Patterns',
  own_look: 'Looks',
  written_guide: 'Guides',
  leaving_rule: 'De-identification',
  destination: 'Destinations',
  practice_system: 'Practice system',
  known_sender: 'Who sends',
  colleague: 'Colleagues',
  letter_template: 'Letter templates',
  user_account: 'People'
};
const columns: Readonly<Record<string, string>> = {
  notation: 'how teeth are written',
  time_zone: 'the time zone',
  language: 'what dates and numbers are written in',
  bin_days: 'the days of the bin',
  put_away_days: 'the days of what was put away',
  read_folders: 'the watched folders',
  address: 'the address',
  url: 'its address',
  logo: 'the logo',
  name: 'its name',
  version: 'its version',
  rule: 'its rule',
  body: 'what stands on it',
  pedal: 'the pedal’s keys',
  usual_pattern: 'the usual pattern',
  opens_armed: 'whether it opens armed',
  room_id: 'its room',
  opens_with: 'what its pictures open with',
  closed_at: 'whether it is in use',
  size_mm: 'its size',
  tolerance_mm: 'its tolerance',
  across_mm: 'how it prints across',
  down_mm: 'how it prints down',
  display_name: 'the name',
  role: 'the role',
  disabled_at: 'whether they are let in',
  retired_at: 'whether it is in use',
  dropped_at: 'whether it is in use'
};
/** Values that are stored under short names, as the settings show them. */
const valueWords: Readonly<Record<string, (stored: string) => string>> = {
  notation: (stored) => notationNames[stored as Notation] ?? stored,
  language: languageName,
  time_zone: zoneWords
};
type Row = Readonly<Record<string, unknown>>;

/** Columns that a change gave another value; all of them for a row that came or went. */
export const changedColumns = (before: Row, after: Row): string[] =>
  Object.keys(after).filter((name) => JSON.stringify(before[name]) !== JSON.stringify(after[name]));

/** A column in words, with what it was and is where that is short: "the days of the bin (90 → 30)". */
function columnWords(name: string, before: Row, after: Row): string {
  const words = columns[name];
  if (!words) return '';
  const values = [before[name], after[name]].map((value) =>
    typeof value === 'number' || typeof value === 'string' ? (valueWords[name] ?? String)(String(value)) : ''
  );
  const short = values.every((value) => value !== '' && value.length <= shortLetters && !/\n/.test(value));
  return short && !name.endsWith('_at') ? `${words} (${values.join(' → ')})` : words;
}
const shortLetters = 30;

/** What was changed: "The clinic: the days of the bin (90 → 30)". Of a thing of the clinic that has no name its kind alone. */
export function settingWords(table: string, before: Row | null, after: Row | null): string {
  const thing = things[table] ?? table;
  const row = after ?? before ?? {};
  const name = row.display_name ?? row.name;
  const named = table !== 'clinic' && typeof name === 'string' ? name : '';
  const what = !before
    ? table === 'letterhead'
      ? 'written'
      : 'added'
    : !after
      ? 'taken off the list'
      : [...new Set(changedColumns(before, after).map((name) => columnWords(name, before, after)))]
          .filter(Boolean)
          .join(', ');
  return [thing, [named, what].filter(Boolean).join(', ')].filter(Boolean).join(': ');
}
