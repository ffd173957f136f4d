import { knownValues } from './knownValues';

/**
 * What may leave when a picture is de-identified. Built from PS3.15 Annex E, Basic Application Level Confidentiality
 * Profile with the Retain Longitudinal Temporal Information with Modified Dates option. An attribute that is not
 * named here does not leave, whatever it holds; private ones never do.
 *
 * keep    harmless for this class: about the picture, not the person
 * uid     replaced by another UID, the same one everywhere
 * date    moved by the patient's number of days
 * time    set to noon: the hour of a visit can point to a person
 * moment  a date and a time in one, treated as both
 * empty   must be there, leaves empty
 * name    replaced by the pseudonym
 * known   leaves where its value is one of those that are known to name nobody, else empty
 * items   a sequence whose items are treated by this same list
 */
export type LeavingAct = 'keep' | 'uid' | 'date' | 'time' | 'moment' | 'empty' | 'name' | 'items' | 'known';

const list: Record<LeavingAct, string> = {
  keep: `SpecificCharacterSet SOPClassUID ImageType Modality PresentationIntentType ConversionType
    ImageLaterality Laterality PatientOrientation BodyPartExamined CodeValue CodingSchemeDesignator CodeMeaning
    ExposureInuAs DetectorType PositionerType ViewPosition
    ImagerPixelSpacing PixelSpacing PixelSpacingCalibrationType PixelAspectRatio
    NumberOfFrames FrameIncrementPointer FrameTime PageNumberVector
    RegionSpatialFormat RegionDataType RegionFlags RegionLocationMinX0 RegionLocationMinY0 RegionLocationMaxX1
    RegionLocationMaxY1 PhysicalUnitsXDirection PhysicalUnitsYDirection PhysicalDeltaX PhysicalDeltaY
    SynchronizationTrigger AcquisitionTimeSynchronized PatientEyeMovementCommanded HorizontalFieldOfView
    EmmetropicMagnification IntraOcularPressure PupilDilated
    SeriesNumber InstanceNumber
    PixelIntensityRelationship PixelIntensityRelationshipSign RescaleIntercept RescaleSlope
    PresentationLUTShape WindowCenter WindowWidth VOILUTFunction LossyImageCompression BurnedInAnnotation
    SamplesPerPixel PhotometricInterpretation PlanarConfiguration Rows Columns BitsAllocated BitsStored HighBit
    PixelRepresentation PixelData`,
  known: Object.keys(knownValues).join(' '),
  uid: `SOPInstanceUID StudyInstanceUID SeriesInstanceUID FrameOfReferenceUID ReferencedSOPInstanceUID
    SynchronizationFrameOfReferenceUID`,
  date: 'StudyDate SeriesDate AcquisitionDate ContentDate',
  time: 'StudyTime SeriesTime AcquisitionTime ContentTime',
  moment: 'AcquisitionDateTime',
  empty: 'PatientBirthDate PatientSex AccessionNumber ReferringPhysicianName StudyID',
  name: 'PatientName PatientID',
  items: `AnatomicRegionSequence PrimaryAnatomicStructureSequence AcquisitionContextSequence
    SequenceOfUltrasoundRegions PatientEyeMovementCommandCodeSequence RefractiveStateSequence
    AcquisitionDeviceTypeCodeSequence IlluminationTypeCodeSequence LightPathFilterTypeStackCodeSequence
    ImagePathFilterTypeStackCodeSequence LensesCodeSequence`
};

export const leavingActs: ReadonlyMap<string, LeavingAct> = new Map(
  (Object.keys(list) as LeavingAct[]).flatMap((act) =>
    list[act]
      .trim()
      .split(/\s+/)
      .map((keyword): [string, LeavingAct] => [keyword, act])
  )
);
