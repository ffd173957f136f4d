import { isInverted, windowOf } from '../../raster/look/look';
import { type Attributes, type Dataset, dataset } from '../dataset';
import { jpegBaseline } from '../jpegBody';
import type { ObjectFacts, ObjectPixels } from './objectFacts';

/** A grey picture with a sign had all its values moved up by half its range when it was decoded. */
const isSigned = ({ channels, offset, bitsStored }: ObjectPixels): boolean =>
  channels === 1 && offset === -(2 ** (bitsStored - 1));

/** The modules that every object has: patient, study, series, equipment, SOP common. */
export function commonAttributes(facts: ObjectFacts, sopClassUid: string, modality: string): Attributes {
  const { patient, study, series, instance, equipment } = facts;
  return {
    SpecificCharacterSet: 'ISO_IR 192',
    SOPClassUID: sopClassUid,
    SOPInstanceUID: instance.uid,
    PatientName: patient.name,
    PatientID: patient.id,
    PatientBirthDate: patient.birthDate,
    PatientSex: patient.sex,
    ...animalAttributes(patient),
    StudyInstanceUID: study.uid,
    StudyDate: study.date,
    StudyTime: study.time,
    StudyID: study.id,
    AccessionNumber: study.accession,
    ReferringPhysicianName: '',
    StudyDescription: study.description || undefined,
    SeriesInstanceUID: series.uid,
    SeriesNumber: series.number,
    SeriesDescription: series.description || undefined,
    Modality: modality,
    Manufacturer: equipment.manufacturer,
    ManufacturerModelName: equipment.model || undefined,
    InstitutionName: equipment.institution,
    InstanceNumber: instance.number,
    ContentDate: instance.date,
    ContentTime: instance.time
  };
}

/** Of an animal species, breed and owner have to be told (PS3.3 C.7.1.1). */
function animalAttributes({ species, owner }: ObjectFacts['patient']): Attributes {
  if (!species) return {};
  return {
    PatientSpeciesDescription: species.slice(0, 64),
    PatientSexNeutered: '',
    PatientBreedDescription: '',
    PatientBreedCodeSequence: [],
    BreedRegistrationSequence: [],
    ResponsiblePerson: owner?.slice(0, 64) ?? '',
    ResponsiblePersonRole: owner ? 'OWNER' : undefined,
    ResponsibleOrganization: ''
  };
}

/** What every picture says of its lettering and its losses. */
export const imageAttributes = (facts: ObjectFacts): Attributes => ({
  BurnedInAnnotation: facts.burnedIn === null ? undefined : facts.burnedIn ? 'YES' : 'NO',
  LossyImageCompression: facts.lossy ? '01' : '00',
  LossyImageCompressionRatio: facts.lossy?.ratio,
  LossyImageCompressionMethod: facts.lossy?.method
});

/** The window of a grey picture's look, in stored values, which are the original's. */
export function windowAttributes({ pixels, look }: ObjectFacts): Attributes {
  const window = pixels.channels === 1 ? windowOf(look) : null;
  if (!window) return {};
  const by = { linear: undefined, 'linear exact': 'LINEAR_EXACT', sigmoid: 'SIGMOID' }[window.by];
  return { WindowCenter: window.center, WindowWidth: window.width, VOILUTFunction: by };
}

/** Samples as they were: 8 or 16 bits allocated, colour by pixel, signed where the original was. */
export function pixelAttributes({ pixels, look }: ObjectFacts): Attributes {
  const { width, height, channels, bitsStored, bytes, jpeg } = pixels;
  const signed = isSigned(pixels);
  return {
    SamplesPerPixel: channels,
    PhotometricInterpretation:
      channels === 3 ? (jpeg?.photometric ?? 'RGB') : isInverted(look) ? 'MONOCHROME1' : 'MONOCHROME2',
    PlanarConfiguration: channels === 3 ? 0 : undefined,
    Rows: height,
    Columns: width,
    BitsAllocated: bitsStored > 8 ? 16 : 8,
    BitsStored: bitsStored,
    HighBit: bitsStored - 1,
    PixelRepresentation: signed ? 1 : 0,
    PixelData: jpeg ? { syntax: jpegBaseline, fragments: [jpeg.bytes] } : signed ? signedBytes(pixels) : bytes
  };
}

/** What has to be added to stored values to have the original's: nothing once the sign is back. */
export const interceptOf = (pixels: ObjectPixels): number => (isSigned(pixels) ? 0 : pixels.offset);

function signedBytes({ bytes, bitsStored }: ObjectPixels): Uint8Array {
  const flip = 1 << (bitsStored - 1);
  if (bitsStored <= 8) return Uint8Array.from(bytes, (value) => value - flip);
  const aligned = bytes.byteOffset % 2 === 0 ? bytes : bytes.slice();
  const samples = new Uint16Array(aligned.buffer, aligned.byteOffset, aligned.byteLength >> 1);
  const out = Int16Array.from(samples, (value) => value - flip);
  return new Uint8Array(out.buffer);
}

/** A data set with pixel data in its representation: words for 16 bits, bytes for 8 (PS3.5 8.2). */
export const imageDataset = (facts: ObjectFacts, attributes: Attributes): Dataset =>
  dataset(attributes, { PixelData: facts.pixels.bitsStored > 8 ? 'OW' : 'OB' });
