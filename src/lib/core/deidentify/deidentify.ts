import { type DataElement, type Dataset, dataset, inText, isSequence, withElements } from '../dicom/dataset';
import { safeCarried } from '../dicom/carried';
import { attributeName, entryOfTag } from '../dicom/dictionary';
import { dicomUid, uuidOfUid } from '../identity/uuid7';
import { type Shift, movedDate, movedMoment, movedTime } from './dateShift';
import { knownValues } from './knownValues';
import { withoutTerms } from './residual';
import { type LeavingRule, methodCodes, privateLeaves, temporalWord } from './rule';
import { type Treatment, treatments } from './treatment';

/** How one patient is known outside; the same each time, so that a patient's pictures stay together. */
export interface Pseudonym extends Shift {
  name: string;
  /** The same UID always gives the same other UID, and nobody without the clinic's secret can go back. */
  replaceUid: (uid: string) => string;
}

export interface Change {
  tag: string;
  name: string;
  before: string;
  after: string;
  what: 'kept' | 'replaced' | 'moved' | 'emptied' | 'cleaned' | 'removed' | 'added';
}

/** Everything that a picture leaves by. */
export interface Leaving {
  rule: LeavingRule;
  pseudonym: Pseudonym;
  /** Names and numbers to take out of words that go along, see {@link identityTerms}. */
  terms: readonly string[];
  /** Whether somebody looked at the pixels, and masked what stood in them. */
  pixelsCleaned: boolean;
}

const noon = '120000';
/** What stands where an object must have something and nothing may be said. */
const dummyDate = '20000101';
const dummyText = 'REMOVED';

/** What is written into every de-identified object to say so (PS3.15 E.1.1, C.7.1.1). */
function statement({ rule, pixelsCleaned }: Leaving): Dataset {
  return dataset({
    PatientIdentityRemoved: 'YES',
    DeidentificationMethod: 'Yonder Tray: profile and keep-list',
    DeidentificationMethodCodeSequence: methodCodes(rule, pixelsCleaned).map(([CodeValue, CodeMeaning]) => ({
      CodeValue,
      CodingSchemeDesignator: 'DCM',
      CodeMeaning
    })),
    LongitudinalTemporalInformationModified: temporalWord[rule.dates]
  });
}

/**
 * A new data set that holds only what the rule lets leave (PS3.15 Annex E). The one given stays as it is. Pixels are taken
 * as they are: what has to be masked in them is masked before.
 */
export function deidentified(set: Dataset, leaving: Leaving): Dataset {
  const kept = withOnlyKept(set, leaving, treatments(leaving.rule));
  return withElements(kept, [...statement(leaving), ...privateKept(set, leaving)]);
}

/** Our own private element, where the rule keeps it (PS3.15 E.3.10). Things in it have the numbers that reports give them. */
function privateKept(set: Dataset, { rule, pseudonym, terms }: Leaving): Dataset {
  if (!privateLeaves(rule)) return [];
  const number = (of: string): string => {
    const uid = isUuid(of) ? dicomUid(of) : of;
    return rule.uids === 'kept' ? of : (uuidOfUid(pseudonym.replaceUid(uid)) ?? pseudonym.replaceUid(uid));
  };
  return safeCarried(set, { words: (text) => withoutTerms(text, terms), number });
}

const isUuid = (text: string): boolean => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(text);

type Treat = (tag: string) => Treatment | undefined;

function withOnlyKept(set: Dataset, leaving: Leaving, treat: Treat): Dataset {
  return set.flatMap((element) => {
    const act = treat(element.tag);
    return act ? [treated(element, act, { set, leaving, treat })] : [];
  });
}

function isKnown({ tag, value }: DataElement): boolean {
  const known = knownValues[entryOfTag(tag)!.keyword];
  return (value as (string | number)[]).every((one) => known(String(one)));
}

interface Around {
  set: Dataset;
  leaving: Leaving;
  treat: Treat;
}

function treated(element: DataElement, act: Treatment, around: Around): DataElement {
  const { value } = element;
  const { rule, pseudonym, terms } = around.leaving;
  const each = (change: (text: string) => string): DataElement => ({
    ...element,
    value: (value as (string | number)[]).map((one) => change(String(one)))
  });
  const moved = rule.times === 'moved';
  switch (act) {
    case 'keep':
      return element;
    case 'uid':
      return each(pseudonym.replaceUid);
    case 'date':
      return each((date) => movedDate(date, moved ? pairedWith(element.tag, around.set) : '', pseudonym));
    case 'time':
      return each((time) => (moved ? movedTime(time, pseudonym) : noon));
    case 'moment':
      return each((moment) => movedMoment(moment, pseudonym, moved ? null : noon));
    case 'empty':
      return { ...element, value: [] };
    case 'known':
      return isKnown(element) ? element : { ...element, value: [] };
    case 'name':
      return { ...element, value: [pseudonym.name] };
    case 'clean':
      return each((text) => withoutTerms(text, terms));
    case 'dummy':
      return { ...element, value: [dummyOf(element.vr)] };
    case 'items':
      return {
        ...element,
        value: isSequence(value) ? value.map((item) => withOnlyKept(item, around.leaving, around.treat)) : []
      };
  }
}

function dummyOf(vr: string): string {
  if (vr === 'DA') return dummyDate;
  if (vr === 'TM') return noon;
  return vr === 'DT' ? `${dummyDate}${noon}` : dummyText;
}

/** The time that stands beside a date, as Study Time beside Study Date: together they are one instant. */
function pairedWith(tag: string, set: Dataset): string {
  const keyword = entryOfTag(tag)!.keyword.replace('Date', 'Time');
  const value = set.find((each) => entryOfTag(each.tag)?.keyword === keyword)?.value;
  return Array.isArray(value) && value.length > 0 ? String(value[0]) : '';
}

const words: Record<Treatment, Change['what']> = {
  keep: 'kept',
  uid: 'replaced',
  date: 'moved',
  time: 'moved',
  moment: 'moved',
  empty: 'emptied',
  known: 'emptied',
  name: 'replaced',
  clean: 'cleaned',
  dummy: 'replaced',
  items: 'kept'
};

/**
 * Every attribute before and after, in order of tag: those of the picture as it stands, those of the file it came in
 * (which may hold more), and those the de-identified object has.
 */
export function changes(
  before: Dataset,
  fromFile: { tag: string; text: string }[],
  after: Dataset,
  rule: LeavingRule
): Change[] {
  const treat = treatments(rule);
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
      what: whatHappened(treat(tag), was, is)
    };
  });
}

function whatHappened(
  act: Treatment | undefined,
  was: string | undefined,
  is: string | undefined
): Change['what'] {
  if (is === undefined) return 'removed';
  if (was === undefined) return 'added';
  if (was === is) return 'kept';
  return act && words[act] !== 'kept' ? words[act] : 'replaced';
}
