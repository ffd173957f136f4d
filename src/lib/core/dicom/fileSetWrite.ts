import { type DataElement, type Dataset, dataset, find, firstText } from './dataset';
import { explicitLittleEndian, fileStart, writtenSet } from './write';

export const mediaStorageDirectoryClassUid = '1.2.840.10008.1.3.10';

/** An object of a file-set and where it lies. */
export interface FiledObject {
  /** Each part in capitals, digits and underscores, 8 at most (PS3.10 8.5): ['DICOM', 'IM000001']. */
  path: readonly string[];
  set: Dataset;
}

/** The file at a number in a file-set that we write. */
export const filedPath = (n: number): string[] => ['DICOM', `IM${String(n).padStart(6, '0')}`];

type RecordKind = 'PATIENT' | 'STUDY' | 'SERIES' | 'IMAGE' | 'PRESENTATION' | 'SR DOCUMENT';

interface Record_ {
  kind: RecordKind;
  /** Its own attributes. */
  own: Dataset;
  below: Record_[];
}

const presentation = '1.2.840.10008.5.1.4.1.1.11.';
const report = '1.2.840.10008.5.1.4.1.1.88.';

/** Attributes that each kind of record has to have (PS3.3 F.5), with what stands where the object says nothing. */
const attributesOf: Readonly<Record<RecordKind, readonly (readonly [keyword: string, otherwise: string])[]>> =
  {
    PATIENT: [
      ['PatientName', ''],
      ['PatientID', 'UNKNOWN']
    ],
    STUDY: [
      ['StudyDate', '20000101'],
      ['StudyTime', '000000'],
      ['StudyDescription', ''],
      ['StudyInstanceUID', ''],
      ['StudyID', 'UNKNOWN'],
      ['AccessionNumber', '']
    ],
    SERIES: [
      ['Modality', 'OT'],
      ['SeriesInstanceUID', ''],
      ['SeriesNumber', '0']
    ],
    IMAGE: [['InstanceNumber', '1']],
    PRESENTATION: [
      ['InstanceNumber', '1'],
      ['ContentLabel', 'UNKNOWN'],
      ['ContentDescription', ''],
      ['PresentationCreationDate', '20000101'],
      ['PresentationCreationTime', '000000']
    ],
    'SR DOCUMENT': [
      ['InstanceNumber', '1'],
      ['CompletionFlag', 'PARTIAL'],
      ['VerificationFlag', 'UNVERIFIED'],
      ['ContentDate', '20000101'],
      ['ContentTime', '000000']
    ]
  };

function kindOf(set: Dataset): RecordKind {
  const uid = firstText(set, 'SOPClassUID') ?? '';
  return uid.startsWith(presentation) ? 'PRESENTATION' : uid.startsWith(report) ? 'SR DOCUMENT' : 'IMAGE';
}

function ownOf(kind: RecordKind, set: Dataset): Dataset {
  const said = dataset(
    Object.fromEntries(
      attributesOf[kind].map(([keyword, otherwise]) => [keyword, firstText(set, keyword) ?? otherwise])
    )
  );
  const more = ['ReferencedSeriesSequence', 'ConceptNameCodeSequence'].flatMap((keyword) => {
    const wanted = keyword === 'ReferencedSeriesSequence' ? kind === 'PRESENTATION' : kind === 'SR DOCUMENT';
    const element = wanted && find(set, keyword);
    return element ? [element] : [];
  });
  return [...said, ...more].sort((a, b) => (a.tag < b.tag ? -1 : 1));
}

function treeOf(objects: readonly FiledObject[]): Record_[] {
  const patients: Record_[] = [];
  const among = (list: Record_[], kind: RecordKind, key: string, set: Dataset): Record_ => {
    const known = list.find((each) => firstText(each.own, key) === (firstText(set, key) ?? ''));
    if (known) return known;
    const made: Record_ = { kind, own: ownOf(kind, set), below: [] };
    list.push(made);
    return made;
  };
  for (const { set, path } of objects) {
    const patient = among(patients, 'PATIENT', 'PatientID', set);
    const study = among(patient.below, 'STUDY', 'StudyInstanceUID', set);
    const series = among(study.below, 'SERIES', 'SeriesInstanceUID', set);
    const kind = kindOf(set);
    const own = [
      ...ownOf(kind, set),
      ...dataset({
        ReferencedFileID: [...path],
        ReferencedSOPClassUIDInFile: firstText(set, 'SOPClassUID')!,
        ReferencedSOPInstanceUIDInFile: firstText(set, 'SOPInstanceUID')!,
        ReferencedTransferSyntaxUIDInFile: explicitLittleEndian
      })
    ].sort((a, b) => (a.tag < b.tag ? -1 : 1));
    series.below.push({ kind, own, below: [] });
  }
  return patients;
}

const nextTag = '00041400';
const lowerTag = '00041420';

/** One record as an item, with where the next and the first lower one begin. */
const itemOf = ({ kind, own }: Record_, next: number, lower: number): Dataset =>
  [
    ...dataset({
      OffsetOfTheNextDirectoryRecord: next,
      RecordInUseFlag: 0xffff,
      OffsetOfReferencedLowerLevelDirectoryEntity: lower,
      DirectoryRecordType: kind,
      SpecificCharacterSet: 'ISO_IR 192'
    }),
    ...own.filter(({ tag }) => tag !== nextTag && tag !== lowerTag)
  ].sort((a, b) => (a.tag < b.tag ? -1 : 1));

const itemHead = 8;
const sequenceHead = 12;

/**
 * The index of a file-set (DICOMDIR, PS3.3 F): who, which visit, which series and each object, in two passes, since
 * records name one another by where they begin.
 * @param uid of the file-set @throws RangeError for a path that a file-set can't hold
 */
export function writeFileSetIndex(objects: readonly FiledObject[], uid: string): Uint8Array {
  for (const { path } of objects)
    if (path.length > 8 || path.some((part) => !/^[A-Z0-9_]{1,8}$/.test(part)))
      throw new RangeError(`a file-set holds no file called ${path.join('/')}`);
  const records: { record: Record_; size: number; at: number; next: Record_ | null }[] = [];
  const walk = (list: readonly Record_[]) => {
    list.forEach((record, i) => {
      const size = itemHead + writtenSet(itemOf(record, 0, 0)).length;
      records.push({ record, size, at: 0, next: list[i + 1] ?? null });
      walk(record.below);
    });
  };
  const patients = treeOf(objects);
  walk(patients);

  const start = fileStart({
    classUid: mediaStorageDirectoryClassUid,
    instanceUid: uid,
    transferSyntax: explicitLittleEndian
  });
  const head = (first: number, last: number): Dataset =>
    dataset({
      FileSetID: 'YONDER',
      OffsetOfTheFirstDirectoryRecordOfTheRootDirectoryEntity: first,
      OffsetOfTheLastDirectoryRecordOfTheRootDirectoryEntity: last,
      FileSetConsistencyFlag: 0
    });
  let at = start.length + writtenSet(head(0, 0)).length + sequenceHead;
  const where = new Map<Record_, number>();
  for (const each of records) {
    where.set(each.record, at);
    at += each.size;
  }
  const whereOf = (record: Record_ | null | undefined): number => (record ? where.get(record)! : 0);
  const sequence: DataElement = {
    tag: '00041220',
    vr: 'SQ',
    value: records.map(({ record, next }) => itemOf(record, whereOf(next), whereOf(record.below[0])))
  };
  const body = writtenSet([...head(whereOf(patients[0]), whereOf(patients.at(-1))), sequence]);
  const out = new Uint8Array(start.length + body.length);
  out.set(start);
  out.set(body, start.length);
  return out;
}
