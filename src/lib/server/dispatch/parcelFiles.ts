import Papa from 'papaparse';
import {
  type CheckProtocol,
  checkedThings,
  foundWords,
  protocolLines
} from '../../core/deidentify/parcelCheck';
import { ruleWords } from '../../core/deidentify/rule';
import { withoutTerms } from '../../core/deidentify/residual';
import { type FiledObject, filedPath, writeFileSetIndex } from '../../core/dicom/fileSetWrite';
import { instanceUids } from '../../core/dicom/instanceUids';
import { packageBundle } from '../../core/parcel/packageBundle';
import { packageManifest } from '../../core/parcel/packageManifest';
import { packagePage } from '../../core/parcel/packagePage';
import type { PackedPaper, PageOf } from '../../core/parcel/packageParts';
import { asFileName, eachOnce, fileNamer } from '../../core/parcel/fileNames';
import { takesPapers } from '../../core/parcel/packing';
import { readingColumns, readingsTable } from '../../core/picture/readingsTable';
import type { Notation } from '../../core/anatomy/teeth';
import { dicomUid } from '../../core/identity/uuid7';
import { wholeBlob } from '../blobs/keep';
import { Clinic } from '../clinics/clinicModel';
import { type Tx, inClinic, within } from '../database/connection';
import { pseudonymOf } from '../deidentify/pseudonyms';
import { ruleInUse } from '../deidentify/rules';
import { termsOf } from '../deidentify/terms';
import { readOrigin } from '../pictures/origin';
import { picturesByIds } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import { Problem } from '../problem';
import { visitHead } from '../visits/visitHead';
import { ahead } from '../work/ahead';
import { packedAtOnce, packedOutside, pagesOutside } from '../work/processes';
import { papersOfParcel } from './paperParcels';
import type { ItemPacked, ItemWish, ObjectWish, PackedFile } from './packedItem';
import { type ItemRow, type ParcelRow, itemsOf, parcelRow } from './parcelRow';

export interface ParcelFile {
  /** With "/" between folders. */
  path: string;
  bytes: Uint8Array;
}

const text = (words: string) => new TextEncoder().encode(words);
/** A PDF is made of all its pages at once. */
const mostPages = 200;

/**
 * One picture as it leaves. What was looked through before and is the same now goes; what was changed since is looked
 * through anew.
 * @throws Problem where something is found in it
 */
export async function itemLeaving(
  clinicId: string,
  { identity, ruleId, packing, madeBy }: Pick<ParcelRow, 'identity' | 'ruleId' | 'packing' | 'madeBy'>,
  { picture_id: pictureId, found }: ItemRow,
  wanted: ObjectWish = {}
): Promise<ItemPacked> {
  const wish: ItemWish = { clinicId, pictureId, identity, ruleId, packing, madeBy, check: false, ...wanted };
  const built = await packedOutside(wish);
  if (identity === 'identified' || built.digest === found?.digest) return built;
  const again = await packedOutside({ ...wish, check: true });
  if (again.found.length > 0)
    throw new Problem(
      'identity-left',
      `This picture was changed, and something is found in it that must not leave: ${foundWords(again.found).join(', ')}.`,
      'Lay a veil over it, or leave the picture out, and send it anew.',
      409
    );
  return again;
}

/** All files of a parcel, one after the other: while one picture is taken the next ones are packed. */
export async function* parcelFiles(
  clinicId: string,
  parcelId: string,
  done: (pictures: number) => void = () => {}
): AsyncGenerator<ParcelFile> {
  const { parcel, items, papers } = await inClinic(clinicId, async (tx) => ({
    parcel: await parcelRow(tx, parcelId),
    items: await itemsOf(tx, parcelId),
    papers: await papersOfParcel(tx, parcelId)
  }));
  if (items.length === 0) return yield* papersAlone(clinicId, papers);
  const { packing } = parcel;
  const filed = packing.format === 'package' || (packing.format === 'dicom' && packing.index);
  const nameOf = fileNamer(packing.names, items.length);
  const shownName = fileNamer('{n} {what}', items.length);
  const objects: FiledObject[] = [];
  const pages: PageOf[] = [];
  const sheets: { jpeg: Uint8Array; words: string }[] = [];
  const names = new Map<string, string>();
  // One that is taken, beside those that are packed meanwhile.
  const leaving = ahead(items, packedAtOnce + 1, (item) => itemLeaving(clinicId, parcel, item));
  let packed = 0;
  for await (const { about, files } of leaving) {
    const name = packing.format === 'package' ? shownName(about) : nameOf(about);
    names.set(about.pictureId, name);
    const shown: string[] = [];
    const views: { name: string; remark: string; path: string }[] = [];
    for (const file of files) {
      if (file.set && filed) {
        const path = filedPath(objects.length + 1);
        objects.push({ path, set: file.set });
        yield { path: path.join('/'), bytes: file.bytes };
        continue;
      }
      if (packing.format === 'pdf') {
        sheets.push({
          jpeg: file.bytes,
          words: [about.what, about.place, about.date].filter(Boolean).join(' · ')
        });
        if (sheets.length > mostPages)
          throw new Problem(
            'too-many-pages',
            `A PDF holds at most ${mostPages} pictures.`,
            'Send fewer at once, or as JPEG.',
            409
          );
        continue;
      }
      if (file.kept) {
        const path = `kept views/${name} ${String(views.length + 1).padStart(2, '0')}.${file.ending}`;
        views.push({ ...file.kept, path });
        yield { path, bytes: file.bytes };
        continue;
      }
      const beside = besideWords[file.part];
      const frame = file.frame === null ? '' : ` frame ${String(file.frame + 1).padStart(3, '0')}`;
      const path = `${file.part === 'shown' ? 'pictures/' : ''}${name}${beside}${frame}.${file.ending}`;
      if (file.part === 'shown') shown.push(path);
      yield { path, bytes: file.bytes };
    }
    if (packing.format === 'package') {
      const set = files.find(({ part }) => part === 'picture')?.set;
      pages.push({ ...about, files: shown, uids: set ? instanceUids(set) : null });
      for (const { name: called, remark, path } of views)
        pages.push({
          ...about,
          ...ofOneFrame,
          what: called || `${about.what}, kept view`,
          remark,
          files: [path]
        });
    }
    done(++packed);
  }
  if (filed) {
    yield { path: 'DICOMDIR', bytes: writeFileSetIndex(objects, dicomUid(parcelId)) };
  }
  yield* beside(clinicId, parcel, items, { pages, sheets, names });
}

/** Papers as they lie in the chart, and nothing beside them. @throws Problem where all of them were put away */
async function* papersAlone(
  clinicId: string,
  papers: readonly { title: string; sha256: Buffer }[]
): AsyncGenerator<ParcelFile> {
  if (papers.length === 0)
    throw new Problem(
      'papers-away',
      'What was to go was put away meanwhile.',
      'Bring it back in the visit’s story and try again, or withdraw the parcel.',
      409
    );
  const once = eachOnce();
  for (const { title, sha256 } of papers)
    yield { path: `${once(asFileName(title) || 'paper')}.pdf`, bytes: await wholeBlob(clinicId, sha256) };
}

/** What is added to the name of a file that is not the picture itself. */
const besideWords: Readonly<Record<PackedFile['part'], string>> = {
  state: ' how it was seen',
  report: ' readings',
  header: '',
  picture: '',
  shown: '',
  kept: ''
};
const ofOneFrame = { frames: 1, frameMs: null, uids: null };

interface Gathered {
  pages: PageOf[];
  sheets: { jpeg: Uint8Array; words: string }[];
  names: Map<string, string>;
}

/** What lies beside the pictures: readings, words, pages, and the protocol of what was looked through. */
async function* beside(
  clinicId: string,
  parcel: ParcelRow,
  items: readonly ItemRow[],
  { pages, sheets, names }: Gathered
): AsyncGenerator<ParcelFile> {
  const { packing } = parcel;
  const told = await inClinic(clinicId, (tx) => toldBeside(tx, parcel, items, names));
  if (packing.format === 'csv' || packing.format === 'package')
    yield { path: 'readings.csv', bytes: text(`\uFEFF${told.readings}\r\n`) };
  if (packing.words) yield { path: 'read me.txt', bytes: text(`${told.words}\r\n`) };
  if (packing.format === 'pdf')
    yield { path: 'pictures.pdf', bytes: await pagesOutside({ title: told.title, sheets, lines: [] }) };
  for (const { file, sha256 } of told.papers) yield { path: file, bytes: await wholeBlob(clinicId, sha256) };
  if (packing.format === 'package') {
    const bundle = packageBundle(told.who, pages, told.papers);
    yield { path: 'fhir-bundle.json', bytes: text(JSON.stringify(bundle, null, 2)) };
    yield { path: 'index.html', bytes: text(packagePage({ ...told, pages })) };
    yield { path: 'yonder-package.json', bytes: text(packageManifest(parcel.identity, pages)) };
  }
  if (told.protocol) {
    yield { path: 'what was checked.json', bytes: text(JSON.stringify(told.protocol, null, 2)) };
    yield {
      path: 'what was checked.pdf',
      bytes: await pagesOutside({
        title: 'What was checked',
        sheets: [],
        lines: protocolLines(told.protocol)
      })
    };
  }
}

/** The papers of some visits that go along, by where they lie in the package. */
async function papersAlong(
  tx: Tx,
  { packing, identity }: ParcelRow,
  visitIds: readonly string[]
): Promise<(PackedPaper & { sha256: Buffer })[]> {
  if (!packing.papers || !takesPapers(packing.format, identity)) return [];
  const rows = await tx.sql<{ title: string; sha256: Buffer }>(
    `select title, sha256 from paper where visit_id = any($1::uuid[]) and put_away_by is null
     order by added_at, paper_id`,
    visitIds
  );
  const once = eachOnce();
  return rows.map(({ title, sha256 }) => ({
    title,
    sha256,
    // What it is called here is what it is called where it is read again.
    file: `papers/${once(asFileName(title) || 'paper')}.pdf`
  }));
}

async function toldBeside(tx: Tx, parcel: ParcelRow, items: readonly ItemRow[], names: Map<string, string>) {
  const rows = await picturesByIds(
    tx,
    items.map(({ picture_id: id }) => id)
  );
  const clinic = (await Clinic.findByPk(tx.clinicId, within(tx)))!;
  const away = parcel.identity === 'deidentified';
  const rule = away ? await ruleInUse(tx, parcel.ruleId) : null;
  const views = await viewsOf(tx, rows, parcel.madeBy);
  const heads = new Map<string, Awaited<ReturnType<typeof visitHead>>>();
  for (const { visit_id: id } of rows) if (!heads.has(id)) heads.set(id, await visitHead(tx, id));
  const terms = new Set<string>();
  if (rule)
    for (const [visitId, head] of heads) {
      const of = await termsOf(tx, head, rule.rule);
      for (const row of rows.filter(({ visit_id: id }) => id === visitId))
        for (const term of of(readOrigin(row.facts))) terms.add(term);
    }
  const clean = (words: string) => (rule ? withoutTerms(words, [...terms]) : words);
  const table = readingsTable(views, clinic.notation as Notation).map((row) =>
    rule
      ? {
          ...Object.fromEntries(Object.entries(row).map(([column, cell]) => [column, clean(cell)])),
          taken: '',
          prepared_by: '',
          confirmed_by: ''
        }
      : row
  );
  const patients = [
    ...new Map([...heads.values()].map(({ patient }) => [patient.patientId, patient])).values()
  ];
  const who = [];
  for (const patient of patients)
    who.push(
      rule
        ? {
            id: (await pseudonymOf(tx, patient.patientId, rule.purpose)).name,
            name: null,
            born: null,
            sex: '' as const
          }
        : {
            id: patient.recordNumber,
            name: { family: patient.familyName, given: patient.givenName },
            born: patient.birthDate,
            sex: patient.sex
          }
    );
  const veils = new Map(views.map((view) => [view.pictureId, view.layers.veils]));
  const protocol: CheckProtocol | null = rule && {
    version: 1,
    rule: rule.name,
    did: ruleWords(rule.rule),
    checkedAt: new Date().toISOString(),
    items: items.map(({ picture_id: id, found }) => ({
      file: names.get(id) ?? '',
      checked: [...checkedThings],
      veils: (veils.get(id)?.veils.length ?? 0) + (veils.get(id)?.only ? 1 : 0),
      found: found ? foundWords(found.found).map(() => 'a word that a person let go') : []
    }))
  };
  return {
    title:
      who.length === 1
        ? who[0].name
          ? `${who[0].name.given} ${who[0].name.family}`.trim()
          : who[0].id
        : 'Pictures',
    who,
    deidentified: away,
    clinic: rule && !rule.rule.institution ? '' : clinic.name,
    words: clean(parcel.packing.words),
    papers: await papersAlong(tx, parcel, [...heads.keys()]),
    readings: Papa.unparse(
      { fields: [...readingColumns], data: table },
      { escapeFormulae: /^[=+@\t\r]|^-(?![\d.])/, newline: '\r\n' }
    ),
    protocol
  };
}
