import { type Leaving, changes, deidentified } from '../../core/deidentify/deidentify';
import type { LeavingPicture, LeavingView } from '../../core/deidentify/leavingView';
import { leavingWords } from '../../core/deidentify/leavingWords';
import { termsStillIn } from '../../core/deidentify/residual';
import { ruleWords } from '../../core/deidentify/rule';
import { type Dataset, firstText } from '../../core/dicom/dataset';
import { pixelDataTag } from '../../core/dicom/dictionary';
import { masksSomething, veiledFrames } from '../../core/picture/layers/veils/veils';
import { type Raster, samplesFrom } from '../../core/raster/raster';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { pictureDataset, samplesSize } from '../objects/pictureObject';
import { maySay, saidOf } from '../objects/saidOf';
import { type Caller, demand } from '../people/caller';
import { wholeSamples } from '../pictures/levels';
import { readOrigin } from '../pictures/origin';
import { type PictureRow, shapeOf } from '../pictures/queries';
import { pictureRow } from '../pictures/views';
import { type VisitHead, visitHead } from '../visits/visitHead';
import type { LeavesAs } from './identityRule';
import { lookedAt, mayHoldLettering, veilsOf } from './lettering';
import { pseudonymOf } from './pseudonyms';
import { type RuleInUse, ruleInUse } from './rules';
import { termsOf } from './terms';

/** What each picture of a visit leaves by: its rule, its pseudonym, and what must not stand in it. */
export async function leavingBy(
  tx: Tx,
  head: VisitHead,
  { rule, purpose }: RuleInUse,
  as?: LeavesAs
): Promise<(row: PictureRow) => Promise<Leaving>> {
  const own = await pseudonymOf(tx, head.patient.patientId, as?.purpose ?? purpose);
  const pseudonym = as ? { ...own, name: as.name } : own;
  const terms = await termsOf(tx, head, rule);
  return async (row) => ({
    rule,
    pseudonym,
    terms: terms(readOrigin(row.facts)),
    pixelsCleaned: (await lookedAt(tx, [row.picture_id])).has(row.picture_id)
  });
}

/** The same for one picture. */
export async function pictureLeaving(
  tx: Tx,
  row: PictureRow,
  rule: RuleInUse,
  as?: LeavesAs
): Promise<Leaving> {
  return (await leavingBy(tx, await visitHead(tx, row.visit_id), rule, as))(row);
}

/** All frames' samples of a picture with what is masked of them masked, as little-endian bytes. */
export async function veiledSamples(clinicId: string, row: PictureRow): Promise<Uint8Array> {
  const bytes = await wholeSamples(clinicId, row);
  const veils = await inClinic(clinicId, async (tx) =>
    (await veilsOf(tx, [row.picture_id])).get(row.picture_id)
  );
  if (!veils || !masksSomething(veils)) return bytes;
  const length = bytes.length / row.frames;
  const frames = Array.from({ length: row.frames }, (_, frame) =>
    samplesFrom(bytes.slice(frame * length, (frame + 1) * length), row.bits_stored)
  );
  return Buffer.concat(veiledFrames(shapeOf(row), frames, veils).map(bytesOf));
}

const bytesOf = ({ buffer, byteOffset, byteLength }: Raster['data']): Uint8Array =>
  new Uint8Array(buffer, byteOffset, byteLength);

/** Where somebody looked and masked, the object says that nothing is burned in. */
export function saidLooked(set: Dataset, { pixelsCleaned }: Leaving): Dataset {
  if (!pixelsCleaned) return set;
  return set.map((each) => (each.tag === '00280301' ? { ...each, value: ['NO'] } : each));
}

export const whereWords = (found: readonly { where: string }[]): string =>
  [...new Set(found.map((each) => each.where))].slice(0, 6).join(', ');

/** What would leave: every attribute before and after, for each chosen picture. Showing it is in the audit. */
export async function leaving(
  caller: Caller,
  visitId: string,
  pictureIds: string[],
  ruleId: string | null = null
): Promise<LeavingView> {
  await demand(caller, 'send', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    const head = await visitHead(tx, visitId);
    const rule = await ruleInUse(tx, ruleId);
    const pseudonym = await pseudonymOf(tx, head.patient.patientId, rule.purpose);
    const by = await leavingBy(tx, head, rule);
    const pictures = [];
    for (const pictureId of pictureIds) {
      const found = await leavingPicture(tx, visitId, pictureId, by);
      if (found) pictures.push(found);
    }
    await writeAudit(tx, caller, 'leaving shown', visitId, {
      patientId: head.patient.patientId,
      pictures: pictureIds.length
    });
    return {
      ruleId: rule.ruleId,
      rule: rule.name,
      ruleWords: ruleWords(rule.rule),
      dates: rule.rule.dates,
      pseudonym: pseudonym.name,
      dateShiftDays: pseudonym.dateShiftDays,
      pictures
    };
  });
}

async function leavingPicture(
  tx: Tx,
  visitId: string,
  pictureId: string,
  leavingOf: (row: PictureRow) => Promise<Leaving>
): Promise<LeavingPicture | null> {
  const row = await pictureRow(tx, pictureId);
  if (row.visit_id !== visitId) return null;
  const by = await leavingOf(row);
  const before = await pictureDataset(tx, row, new Uint8Array());
  const after = deidentified(saidLooked(before, by), by);
  const size = `${samplesSize(row).toLocaleString('en')} bytes`;
  const origin = readOrigin(row.facts);
  const all = changes(before, origin.fileAttributes, after, by.rule).map((change) =>
    change.tag === pixelDataTag ? { ...change, before: size, after: size } : change
  );
  return {
    pictureId,
    words: leavingWords(all),
    changes: all,
    said: maySay(row) ? await saidOf(tx, pictureId) : null,
    checked: checksOf(by.terms, after),
    asks: mayHoldLettering(row, origin),
    looked: by.pixelsCleaned
  };
}

/** Looks through what would leave for what must not be there, whatever the list says. */
function checksOf(terms: readonly string[], after: Dataset): string[] {
  const found = termsStillIn(after, terms);
  const privateCount = after.filter((element) => parseInt(element.tag.slice(0, 4), 16) % 2 === 1).length;
  const removed = firstText(after, 'PatientIdentityRemoved') === 'YES';
  return [
    found.length === 0
      ? 'Names, numbers and the day of birth were searched for in all free text: none found.'
      : `Still found: part of a name or number in ${whereWords(found)}. It will not be sent.`,
    privateCount === 0 ? 'No private attribute leaves.' : `${privateCount} private attributes would leave.`,
    `The object ${removed ? 'says' : 'does not say'} that its identity was removed.`
  ];
}
