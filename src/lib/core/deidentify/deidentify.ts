import { type DataElement, type Dataset, dataset, inText, isSequence } from '../dicom/dataset';
import { shiftedDate } from '../dicom/dates';
import { attributeName, entryOfTag } from '../dicom/dictionary';
import { type LeavingAct, leavingActs } from './keepList';
import { knownValues } from './knownValues';

/** How one patient is known outside; the same each time, so that a patient's pictures stay together. */
export interface Pseudonym {
  name: string;
  /** Whole days, negative for earlier. */
  dateShiftDays: number;
  /** The same UID always gives the same other UID, and nobody without the clinic's secret can go back. */
  replaceUid: (uid: string) => string;
}

export interface Change {
  tag: string;
  name: string;
  before: string;
  after: string;
  what: 'kept' | 'replaced' | 'moved' | 'emptied' | 'removed' | 'added';
}

const noon = '120000';

const methodCodes = [
  ['113100', 'Basic Application Confidentiality Profile'],
  ['113107', 'Retain Longitudinal Temporal Information Modified Dates Option']
];

/** What is written into every de-identified object to say so (PS3.15 E.1.1, C.7.1.1). */
function statement(): Dataset {
  return dataset({
    PatientIdentityRemoved: 'YES',
    DeidentificationMethod: 'Yonder Tray keep-list',
    DeidentificationMethodCodeSequence: methodCodes.map(([CodeValue, CodeMeaning]) => ({
      CodeValue,
      CodingSchemeDesignator: 'DCM',
      CodeMeaning
    })),
    LongitudinalTemporalInformationModified: 'MODIFIED'
  });
}

/** A new data set that holds only what the keep-list lets leave. The one given stays as it is. */
export function deidentified(set: Dataset, pseudonym: Pseudonym): Dataset {
  const leaving = withOnlyKept(set, pseudonym);
  return [...leaving, ...statement()].sort((a, b) => (a.tag < b.tag ? -1 : 1));
}

function actOf(tag: string): LeavingAct | undefined {
  const entry = entryOfTag(tag);
  return entry && leavingActs.get(entry.keyword);
}

function withOnlyKept(set: Dataset, pseudonym: Pseudonym): Dataset {
  return set.flatMap((element) => {
    const act = actOf(element.tag);
    return act ? [treated(element, act, pseudonym)] : [];
  });
}

function isKnown({ tag, value }: DataElement): boolean {
  const known = knownValues[entryOfTag(tag)!.keyword];
  return (value as (string | number)[]).every((one) => known(String(one)));
}

function treated(element: DataElement, act: LeavingAct, pseudonym: Pseudonym): DataElement {
  const { value } = element;
  const each = (change: (text: string) => string): DataElement => ({
    ...element,
    value: (value as (string | number)[]).map((one) => change(String(one)))
  });
  switch (act) {
    case 'keep':
      return element;
    case 'uid':
      return each(pseudonym.replaceUid);
    case 'date':
      return each((date) => shiftedDate(date, pseudonym.dateShiftDays));
    case 'time':
      return each(() => noon);
    case 'moment':
      return each((moment) => `${shiftedDate(moment.slice(0, 8), pseudonym.dateShiftDays)}${noon}`);
    case 'empty':
      return { ...element, value: [] };
    case 'known':
      return isKnown(element) ? element : { ...element, value: [] };
    case 'name':
      return { ...element, value: [pseudonym.name] };
    case 'items':
      return {
        ...element,
        value: isSequence(value) ? value.map((item) => withOnlyKept(item, pseudonym)) : []
      };
  }
}

const words: Record<LeavingAct, Change['what']> = {
  keep: 'kept',
  uid: 'replaced',
  date: 'moved',
  time: 'replaced',
  moment: 'moved',
  empty: 'emptied',
  known: 'emptied',
  name: 'replaced',
  items: 'kept'
};

/**
 * Every attribute before and after, in order of tag: those of the picture as it stands, those of the file it came in
 * (which may hold more), and those the de-identified object has.
 */
export function changes(
  before: Dataset,
  fromFile: { tag: string; text: string }[],
  after: Dataset
): Change[] {
  const beforeText = new Map(fromFile.map(({ tag, text }): [string, string] => [tag, text]));
  for (const element of before) beforeText.set(element.tag, inText(element));
  const afterText = new Map(after.map((element): [string, string] => [element.tag, inText(element)]));
  const tags = [...new Set([...beforeText.keys(), ...afterText.keys()])].sort();
  return tags.map((tag) => {
    const was = beforeText.get(tag);
    const is = afterText.get(tag);
    return {
      tag,
      name: attributeName(tag),
      before: was ?? '',
      after: is ?? '',
      what: whatHappened(tag, was, is)
    };
  });
}

function whatHappened(tag: string, was: string | undefined, is: string | undefined): Change['what'] {
  if (is === undefined) return 'removed';
  if (was === undefined) return 'added';
  if (was === is) return 'kept';
  const act = actOf(tag);
  return act ? (words[act] === 'kept' ? 'replaced' : words[act]) : 'replaced';
}
