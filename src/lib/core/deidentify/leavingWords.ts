import type { Change } from './deidentify';

/** What happens to a picture's attributes, told in words before the table is opened. */
export interface LeavingWords {
  /** Names of what stands for somebody and is replaced, in everyday words. */
  replaced: string[];
  moved: string[];
  /** What people wrote that goes along without names. */
  cleaned: string[];
  removed: string[];
  /** How many stay as they are. */
  kept: number;
  added: number;
}

/** Attributes that a person asks about, by keyword words of the standard, in everyday ones. */
const everyday: Record<string, string> = {
  'Patient Name': 'name',
  'Patient ID': 'record number',
  'Patient Birth Date': 'birth date',
  'Patient Sex': 'sex',
  'Accession Number': 'accession number',
  'Study ID': 'study number',
  'Study Date': 'date of the visit',
  'Content Date': 'date of the picture',
  'Acquisition Date': 'date it was taken',
  'Study Time': 'time of the visit',
  'Content Time': 'time of the picture',
  'Acquisition Time': 'time it was taken',
  'Institution Name': 'clinic',
  'Responsible Person': 'owner',
  'Patient Species Description': 'species',
  'Study Description': 'words about the visit',
  'Series Description': 'words about the series',
  'Referring Physician Name': 'referring colleague',
  'Study Instance UID': 'numbers that computers know it by',
  'Series Instance UID': 'numbers that computers know it by',
  'SOP Instance UID': 'numbers that computers know it by'
};

/** What a person asks about first comes first. */
const rank = (name: string): number => {
  const at = Object.keys(everyday).indexOf(name);
  return at < 0 ? Infinity : at;
};

const said = (all: readonly Change[], ...what: Change['what'][]): string[] => [
  ...new Set(
    all
      .filter((change) => what.includes(change.what) && change.before !== '')
      .sort((a, b) => rank(a.name) - rank(b.name) || a.tag.localeCompare(b.tag))
      .map((change) => everyday[change.name] ?? change.name.toLowerCase())
  )
];

export function leavingWords(all: readonly Change[]): LeavingWords {
  return {
    replaced: said(all, 'replaced'),
    moved: said(all, 'moved'),
    cleaned: said(all, 'cleaned'),
    removed: said(all, 'removed', 'emptied'),
    kept: all.filter((change) => change.what === 'kept').length,
    added: all.filter((change) => change.what === 'added').length
  };
}
