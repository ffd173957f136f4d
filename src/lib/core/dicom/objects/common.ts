import type { Attributes } from '../dataset';
import { bytesOf } from '../../raster/raster';
import type { PictureFacts } from './facts';

/** The modules that every image object has: patient, study, series, equipment, image, pixels, SOP common. */
export function commonAttributes(facts: PictureFacts, sopClassUid: string, modality: string): Attributes {
  const { patient, study, series, instance, equipment } = facts;
  return {
    SpecificCharacterSet: 'ISO_IR 192',
    SOPClassUID: sopClassUid,
    SOPInstanceUID: instance.uid,
    PatientName: patient.name,
    PatientID: patient.id,
    PatientBirthDate: patient.birthDate,
    PatientSex: patient.sex,
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
    ContentTime: instance.time,
    BurnedInAnnotation: facts.burnedIn === null ? undefined : facts.burnedIn ? 'YES' : 'NO',
    LossyImageCompression: facts.lossy ? '01' : '00',
    LossyImageCompressionRatio: facts.lossy?.ratio,
    LossyImageCompressionMethod: facts.lossy?.method,
    ...pixelAttributes(facts)
  };
}

/**
 * Samples as they are: 8 or 16 bits allocated, colour by pixel. Signed originals keep their meaning by the intercept,
 * inverted looks by the photometric interpretation.
 */
function pixelAttributes({ raster, look }: PictureFacts): Attributes {
  const bytes = bytesOf(raster);
  const allocated = raster.bitsStored > 8 ? 16 : 8;
  return {
    SamplesPerPixel: raster.channels,
    PhotometricInterpretation: raster.channels === 3 ? 'RGB' : look.inverted ? 'MONOCHROME1' : 'MONOCHROME2',
    PlanarConfiguration: raster.channels === 3 ? 0 : undefined,
    Rows: raster.height,
    Columns: raster.width,
    BitsAllocated: allocated,
    BitsStored: raster.bitsStored,
    HighBit: raster.bitsStored - 1,
    PixelRepresentation: 0,
    PixelData: bytes
  };
}

/** Representation of the pixel data: words for 16 bits, bytes for 8 (PS3.5 8.2). */
export function pixelVr(facts: PictureFacts): Record<string, string> {
  return { PixelData: facts.raster.bitsStored > 8 ? 'OW' : 'OB' };
}
