import { knownValues } from './knownValues';

/**
 * What may leave when a picture is de-identified, whatever the standard's table says: the second fence. An attribute that
 * is named neither here nor by a chosen option of the table does not leave, whatever it holds; private ones never do.
 *
 * keep    harmless for this class: about the picture, not the person
 * uid     replaced by another UID, the same one everywhere
 * date    moved by the patient's number of days
 * time    moved with its date, or set to noon
 * moment  a date and a time in one, treated as both
 * empty   must be there, leaves empty
 * name    replaced by the pseudonym
 * clean   words without names and numbers of the chart
 * known   leaves where its value is one of those that are known to name nobody, else empty
 * items   a sequence whose items are treated by this same list
 */
export type LeavingAct =
  'clean' | 'keep' | 'uid' | 'date' | 'time' | 'moment' | 'empty' | 'name' | 'items' | 'known';

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
    PixelRepresentation PixelData ICCProfile ColorSpace
    ReferencedSOPClassUID GraphicLayer GraphicLayerOrder GraphicAnnotationUnits GraphicDimensions NumberOfGraphicPoints
    GraphicData GraphicType GraphicFilled AnchorPointAnnotationUnits AnchorPoint AnchorPointVisibility
    DisplayedAreaTopLeftHandCorner DisplayedAreaBottomRightHandCorner PresentationSizeMode PresentationPixelSpacing
    PresentationPixelAspectRatio ImageRotation ImageHorizontalFlip
    ValueType ContinuityOfContent CompletionFlag VerificationFlag MappingResource TemplateIdentifier RelationshipType
    NumericValue FloatingPointValue PixelOriginInterpretation ContentLabel`,
  known: Object.keys(knownValues).join(' '),
  uid: `SOPInstanceUID StudyInstanceUID SeriesInstanceUID FrameOfReferenceUID ReferencedSOPInstanceUID
    SynchronizationFrameOfReferenceUID UID`,
  date: 'StudyDate SeriesDate AcquisitionDate ContentDate PresentationCreationDate',
  time: 'StudyTime SeriesTime AcquisitionTime ContentTime PresentationCreationTime',
  moment: 'AcquisitionDateTime ObservationDateTime',
  clean: 'UnformattedTextValue',
  empty: `PatientBirthDate PatientSex AccessionNumber ReferringPhysicianName StudyID ContentCreatorName PersonName
    ContentDescription`,
  name: 'PatientName PatientID',
  items: `AnatomicRegionSequence PrimaryAnatomicStructureSequence AcquisitionContextSequence
    SequenceOfUltrasoundRegions PatientEyeMovementCommandCodeSequence RefractiveStateSequence
    AcquisitionDeviceTypeCodeSequence IlluminationTypeCodeSequence LightPathFilterTypeStackCodeSequence
    ImagePathFilterTypeStackCodeSequence LensesCodeSequence
    ReferencedSeriesSequence ReferencedImageSequence ReferencedSOPSequence ReferencedPerformedProcedureStepSequence
    CurrentRequestedProcedureEvidenceSequence DisplayedAreaSelectionSequence GraphicLayerSequence GraphicObjectSequence
    TextObjectSequence ConceptNameCodeSequence ConceptCodeSequence ContentTemplateSequence MeasuredValueSequence
    MeasurementUnitsCodeSequence PerformedProcedureCodeSequence`
};

export const leavingActs: ReadonlyMap<string, LeavingAct> = new Map(
  (Object.keys(list) as LeavingAct[]).flatMap((act) =>
    list[act]
      .trim()
      .split(/\s+/)
      .map((keyword): [string, LeavingAct] => [keyword, act])
  )
);
