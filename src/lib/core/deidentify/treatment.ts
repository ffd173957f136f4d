import { type DictionaryEntry, entryOfTag } from '../dicom/dictionary';
import { type LeavingAct, leavingActs } from './keepList';
import { type ProfileRow, profileRow } from './profileTable';
import { type LeavingRule, optionsOf } from './rule';

/**
 * What is done to an attribute on its way out. Beside what the keep-list says: `dummy`, a value that says nothing, where
 * the object must have one.
 */
export type Treatment = LeavingAct | 'dummy';

/** What is no row of the standard's table and is said to be the device's, or the animal's, by the options that keep those. */
const alsoKept: Readonly<Record<string, 'device' | 'characteristics'>> = {
  Manufacturer: 'device',
  ManufacturerModelName: 'device',
  SoftwareVersions: 'device',
  PatientSpeciesDescription: 'characteristics',
  PatientBreedDescription: 'characteristics'
};

const isDate = ({ vr }: DictionaryEntry) => vr === 'DA' || vr === 'DT' || vr === 'TM';
const textual = new Set(['LO', 'SH', 'PN', 'ST', 'LT', 'UT', 'UC']);
const actOfDate: Readonly<Record<string, LeavingAct>> = { DA: 'date', TM: 'time', DT: 'moment' };

/**
 * How each attribute is treated under a rule: the table of the standard and its options first, the keep-list as a second
 * fence. What neither names does not leave.
 */
export function treatments(rule: LeavingRule): (tag: string) => Treatment | undefined {
  const chosen = optionsOf(rule);
  const known = new Map<string, Treatment | undefined>();

  function retained(row: ProfileRow, entry: DictionaryEntry): Treatment | undefined {
    for (const [option, how] of Object.entries(row.options)) {
      if (!chosen.has(option as never)) continue;
      if (how === 'K') return 'keep';
      if (isDate(entry)) return actOfDate[entry.vr];
      // What hangs on the time and is none, an offset from UTC say, can't be moved with it.
      if (option === 'movedDates') continue;
      if (entry.vr === 'SQ') return 'items';
      if (textual.has(entry.vr)) return 'clean';
    }
    return undefined;
  }

  function decide(tag: string): Treatment | undefined {
    const entry = entryOfTag(tag);
    if (!entry) return undefined;
    const listed = leavingActs.get(entry.keyword);
    const row = profileRow(tag);
    const option = alsoKept[entry.keyword];
    if (option && chosen.has(option)) return 'keep';
    if (!row) return listed;
    const kept = retained(row, entry);
    if (kept) return kept;
    if (!listed || listed === 'name' || listed === 'items' || listed === 'uid') return listed;
    if (row.basic.includes('D')) return 'dummy';
    return row.basic.includes('Z') ? 'empty' : undefined;
  }

  return (tag) => {
    if (!known.has(tag)) known.set(tag, decide(tag));
    return known.get(tag);
  };
}
