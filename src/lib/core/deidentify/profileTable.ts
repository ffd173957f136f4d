import { entryFor } from '../dicom/dictionary';

/**
 * Table E.1-1 of PS3.15, "Application Level Confidentiality Profile Attributes", edition 2024c, as data: what the basic
 * profile does to an attribute, and what each option does instead.
 *
 * D a dummy value, Z an empty one, X removed, K kept, C cleaned, U another UID; X/Z and the like leave the choice to what
 * the object needs. Groups that repeat (60xx overlays, 50xx curves) and private attributes are rows by rule.
 */
export const profileEdition = 'PS3.15 2024c';

/** The columns beside the basic profile's. */
export const profileOptions = [
  'safePrivate',
  'uids',
  'device',
  'institution',
  'characteristics',
  'fullDates',
  'movedDates',
  'descriptors',
  'structured',
  'graphics'
] as const;
export type ProfileOption = (typeof profileOptions)[number];

export interface ProfileRow {
  keyword: string;
  /** D, Z, X, U, or several of them with a stroke between. */
  basic: string;
  options: Partial<Record<ProfileOption, 'K' | 'C'>>;
}

/** Rows that are treated alike stand together: what is done, then whom it is done to. */
const groups: readonly (readonly [basic: string, options: string, keywords: string])[] = [
  [
    'Z',
    '',
    `AccessionNumber ClinicalTrialCoordinatingCenterName ContentCreatorName FillerOrderNumberImagingServiceRequest
     IssuerOfTheContainerIdentifierSequence IssuerOfTheSpecimenIdentifierSequence PatientBirthDate PatientID
     PatientName PlacerOrderNumberImagingServiceRequest ReferringPhysicianName SpecimenAccessionNumber StudyID`
  ],
  ['Z', 'characteristics K', `PatientSex`],
  [
    'X',
    'characteristics K',
    `EthnicGroup PatientAge PatientBodyMassIndex PatientSexNeutered PatientSize PatientWeight PregnancyStatus
     SelectorASValue SmokingStatus`
  ],
  [
    'X',
    'characteristics C',
    `AdditionalPatientHistory Allergies MedicalAlerts PatientComments PatientState PreMedication SpecialNeeds`
  ],
  [
    'X',
    '',
    `ActualHumanPerformersSequence AddressTrial AdmissionID ApplicationSetupManufacturer Arbitrary
     AuthorObserverSequence BarcodeValue BranchOfService CameraOwnerName CertificateOfSigner
     ClinicalTrialProtocolEthicsCommitteeApprovalNumber ClinicalTrialProtocolEthicsCommitteeName
     ClinicalTrialSeriesID ClinicalTrialTimePointDescription ConfidentialityCode
     ConfidentialityConstraintOnPatientDataDescription ConsultingPhysicianIdentificationSequence
     ConsultingPhysicianName ContainerComponentID ContentCreatorIdentificationCodeSequence
     ContributingEquipmentSequence ContributionDescription CountryOfResidence CurrentObserverTrial
     CurrentPatientLocation CustodialOrganizationSequence DataSetTrailingPadding DigitalSignatureUID
     DigitalSignaturesSequence DistributionAddress DistributionName EncapsulatedDocument EncryptedAttributesSequence
     GPSAltitude GPSAltitudeRef GPSAreaInformation GPSDOP GPSDateStamp GPSDestBearing GPSDestBearingRef
     GPSDestDistance GPSDestDistanceRef GPSDestLatitude GPSDestLatitudeRef GPSDestLongitude GPSDestLongitudeRef
     GPSDifferential GPSImgDirection GPSImgDirectionRef GPSLatitude GPSLatitudeRef GPSLongitude GPSLongitudeRef
     GPSMapDatum GPSMeasureMode GPSProcessingMethod GPSSatellites GPSSpeed GPSSpeedRef GPSStatus GPSTimeStamp
     GPSTrack GPSTrackRef GPSVersionID HL7StructuredDocumentReferenceSequence HumanPerformerName
     HumanPerformerOrganization IconImageSequence IdentifyingComments InsurancePlanIdentification
     IntendedRecipientsOfResultsIdentificationSequence InterpretationApproverSequence InterpretationAuthor
     InterpretationID InterpretationIDIssuer InterpretationRecorder InterpretationTranscriber
     IssuerOfAccessionNumberSequence IssuerOfAdmissionID IssuerOfAdmissionIDSequence IssuerOfClinicalTrialProtocolID
     IssuerOfClinicalTrialSeriesID IssuerOfClinicalTrialSiteID IssuerOfClinicalTrialSubjectID
     IssuerOfClinicalTrialSubjectReadingID IssuerOfClinicalTrialTimePointID IssuerOfPatientID
     IssuerOfPatientIDQualifiersSequence IssuerOfServiceEpisodeID IssuerOfServiceEpisodeIDSequence LabelText
     MACParametersSequence MedicalRecordLocator MilitaryRank ModifiedAttributesSequence NameOfPhysiciansReadingStudy
     NamesOfIntendedRecipientsOfResults Occupation OperatorIdentificationSequence OperatorsName
     OrderCallbackPhoneNumber OrderCallbackTelecomInformation OrderEnteredBy OrderEntererLocation
     OrderFillerIdentifierSequence OrderPlacerIdentifierSequence OriginalAttributesSequence
     OtherClinicalTrialProtocolIDsSequence OtherPatientIDs OtherPatientIDsSequence OtherPatientNames
     ParticipantSequence PatientAddress PatientAlternativeCalendar PatientBirthDateInAlternativeCalendar
     PatientBirthName PatientBirthTime PatientDeathDateInAlternativeCalendar PatientInstitutionResidence
     PatientInsurancePlanCodeSequence PatientMotherBirthName PatientPrimaryLanguageCodeSequence
     PatientPrimaryLanguageModifierCodeSequence PatientReligiousPreference PatientTelecomInformation
     PatientTelephoneNumbers PatientTransportArrangements PerformedLocation PerformedProcedureStepID
     PerformingPhysicianIdentificationSequence PerformingPhysicianName PersonAddress PersonIdentificationCodeSequence
      PersonTelecomInformation PersonTelephoneNumbers PhysicianApprovingInterpretation PhysiciansOfRecord
     PhysiciansOfRecordIdentificationSequence PhysiciansReadingStudyIdentificationSequence PixelDataProviderURL
     QualityControlSubject ReasonForVisit ReasonForVisitCodeSequence ReferencedDigitalSignatureSequence
     ReferencedPatientAliasSequence ReferencedPatientPhotoSequence ReferencedPatientSequence
     ReferencedSOPInstanceMACSequence ReferringPhysicianAddress ReferringPhysicianIdentificationSequence
     ReferringPhysicianTelephoneNumbers RegionOfResidence RequestedProcedureID RequestedProcedureLocation
     RequestingPhysician RequestingPhysicianIdentificationSequence RequestingService ResponsibleGroupCodeSequence
     ResponsibleOrganization ResponsiblePerson ResponsiblePersonRole ResultsDistributionListSequence ResultsID
     ResultsIDIssuer RetrieveURI RetrieveURL RouteOfAdmissions ScheduledHumanPerformersSequence
     ScheduledPatientInstitutionResidence ScheduledPerformingPhysicianIdentificationSequence
     ScheduledPerformingPhysicianName ScheduledProcedureStepID SelectorAEValue SelectorLOValue SelectorLTValue
     SelectorOBValue SelectorODValue SelectorOFValue SelectorOLValue SelectorOVValue SelectorOWValue SelectorPNValue
     SelectorSHValue SelectorSTValue SelectorUCValue SelectorUNValue SelectorURValue SelectorUTValue
     ServiceEpisodeDescription ServiceEpisodeID Signature SourceManufacturer TelephoneNumberTrial TextComments
     TextString TopicAuthor TopicKeywords TopicSubject TopicTitle TypeOfPatientID VerbalSourceTrial
     VerifyingObserverIdentificationCodeSequence`
  ],
  [
    'D',
    '',
    `PersonName ClinicalTrialProtocolID ClinicalTrialSponsorName ClinicalTrialSubjectID ClinicalTrialSubjectReadingID
     FlowIdentifier FlowIdentifierSequence ReviewerName SourceIdentifier VerifyingObserverName
     VerifyingObserverSequence VerifyingOrganization`
  ],
  ['X/Z', '', `ClinicalTrialProtocolName ClinicalTrialSiteID ClinicalTrialSiteName ClinicalTrialTimePointID`],
  [
    'X',
    'descriptors C',
    `AcquisitionComments AcquisitionProtocolDescription AdmittingDiagnosesCodeSequence AdmittingDiagnosesDescription
     AnnotationGroupDescription BeamDescription BolusDescription ClinicalTrialSeriesDescription
     CommentsOnThePerformedProcedureStep ConceptualVolumeCombinationDescription ConceptualVolumeDescription
     ContrastBolusAgent DecompositionDescription DerivationDescription DischargeDiagnosisDescription
     DoseReferenceDescription EntityDescription EquipmentFrameOfReferenceDescription FindingsGroupRecordingTimeTrial
     FixationDeviceDescription FractionGroupDescription FrameComments ImageComments ImagePresentationComments
     ImagingServiceRequestComments Impressions InterlockDescription InterlockOriginDescription
     InterpretationDiagnosisDescription InterpretationText PatientSetupPhotoDescription
     PatientTreatmentPreparationMethodDescription PatientTreatmentPreparationProcedureParameterDescription
     PerformedProcedureStepDescription PerformedProcedureTypeDescription PrescriptionDescription PrescriptionNotes
     PriorTreatmentDoseDescription ROIDescription ROIGenerationDescription ROIObservationDescription
     RTPhysicianIntentNarrative RTPlanDescription RadiationDoseIdentificationLabel
     RadiationDoseInVivoMeasurementLabel ReasonForOmissionDescription ReasonForRequestedProcedureCodeSequence
     ReasonForStudy ReasonForSuperseding ReasonForTheImagingServiceRequest ReasonForTheRequestedProcedure
     RequestAttributesSequence RequestedContrastAgent RequestedProcedureComments RequestedProcedureDescription
     ResultsComments ScheduledProcedureStepDescription SeriesDescription SeriesDescriptionCodeSequence
     SetupTechniqueDescription SourceDescription SpecimenDetailedDescription SpecimenShortDescription StudyComments
     StudyDescription StudyIDIssuer TransducerIdentificationSequence TreatmentPositionGroupLabel
     TreatmentTechniqueNotes TreatmentToleranceViolationDescription UniformResourceLocatorTrial VisitComments`
  ],
  ['X/D', 'descriptors C', `AcquisitionDeviceProcessingDescription ProtocolName`],
  [
    'D',
    'descriptors C',
    `AcquisitionFieldOfViewLabel AnnotationGroupLabel DeviceLabel EntityLabel EntityLongLabel LensMake LensModel
     RTPlanLabel RTPrescriptionLabel RTToleranceSetLabel StructureSetLabel TreatmentMachineName UserContentLabel
     UserContentLongLabel`
  ],
  ['Z', 'descriptors C', `LensSpecification`],
  [
    'X/Z',
    'descriptors C',
    `DeviceDescription ProductPackageIdentifier ROIName ROIObservationLabel RTPlanName StructureSetName
     SubstanceAdministrationNotes`
  ],
  ['Z/D', 'descriptors C', `ContainerIdentifier SpecimenIdentifier`],
  ['X/Z', 'structured C', `AcquisitionContextSequence`],
  ['X', 'structured C', `AcquisitionContextDescription SpecimenPreparationSequence TextValue`],
  ['D', 'structured C', `ContentSequence`],
  ['D', 'graphics C', `GraphicAnnotationSequence`],
  ['X', 'graphics C', `OverlayData`],
  [
    'X',
    'device K',
    `CassetteID DetectorManufacturerModelName DetectorManufacturerName DeviceAlternateIdentifier GantryID GeneratorID
     LensSerialNumber PerformedStationAETitle
     PerformedStationGeographicLocationCodeSequence PerformedStationName PerformedStationNameCodeSequence PlateID
     RetrieveAETitle ScheduledProcedureStepLocation ScheduledStationAETitle
     ScheduledStationGeographicLocationCodeSequence ScheduledStationName ScheduledStationNameCodeSequence
     ScheduledStudyLocation ScheduledStudyLocationAETitle                SourceSerialNumber StationAETitle UDISequence UniqueDeviceIdentifier XRayDetectorID`
  ],
  ['X/Z/D', 'device K', `DetectorID DeviceSerialNumber StationName`],
  ['X/D', 'device K', `XRaySourceID`],
  ['D', 'device K', `XRayDetectorLabel`],
  ['Z', 'device K', `MakerNote`],
  ['U', 'uids K,device K', `DeviceUID`],
  [
    'X',
    'institution K',
    `InstitutionAddress InstitutionCodeSequence InstitutionalDepartmentName InstitutionalDepartmentTypeCodeSequence`
  ],
  ['X/Z/D', 'institution K', `InstitutionName`],
  [
    'X',
    'fullDates K,movedDates C',
    `AdmittingDate AdmittingTime ApprovalStatusDateTime AssertionExpirationDateTime BeamHoldTransitionDateTime
     CalibrationDate CalibrationDateTime CalibrationTime ContributionDateTime CurveDate CurveTime Date
     DateOfDocumentOrVerbalTransactionTrial DateOfGainCalibration DateOfInstallation DateOfLastCalibration
     DateOfLastDetectorCalibration DateOfManufacture DateOfSecondaryCapture DateTime DateTimeOfLastCalibration
     DigitalSignatureDateTime DischargeDate DischargeTime ExpectedCompletionDateTime FindingsGroupRecordingDateTrial
     FirstTreatmentDate FrameAcquisitionDateTime FrameReferenceDateTime ImpedanceMeasurementDateTime
     InformationIssueDateTime InstanceCoercionDateTime InstanceCreationDate InstanceCreationTime
     InterpretationApprovalDate InterpretationApprovalTime InterpretationRecordedDate InterpretationRecordedTime
     InterpretationTranscriptionDate InterpretationTranscriptionTime IssueDateOfImagingServiceRequest
     IssueTimeOfImagingServiceRequest LastMenstrualDate LongitudinalTemporalOffsetFromEvent ModifiedImageDate
     ModifiedImageTime MostRecentTreatmentDate ObservationDateTime ObservationDateTrial ObservationTimeTrial
     OverlayDate OverlayTime PerformedProcedureStepEndDate PerformedProcedureStepEndDateTime
     PerformedProcedureStepEndTime PerformedProcedureStepStartDate PerformedProcedureStepStartDateTime
     PerformedProcedureStepStartTime ProcedureStepCancellationDateTime RTPlanDate RTPlanTime
     RadiopharmaceuticalStartDateTime RadiopharmaceuticalStartTime RadiopharmaceuticalStopDateTime
     RadiopharmaceuticalStopTime ReferencedDateTime ReviewDate ReviewTime SafePositionExitDate SafePositionExitTime
     SafePositionReturnDate SafePositionReturnTime ScheduledAdmissionDate ScheduledAdmissionTime
     ScheduledDischargeDate ScheduledDischargeTime ScheduledProcedureStepEndDate ScheduledProcedureStepEndTime
     ScheduledProcedureStepExpirationDateTime ScheduledProcedureStepModificationDateTime
     ScheduledProcedureStepStartDate ScheduledProcedureStepStartDateTime ScheduledProcedureStepStartTime
     ScheduledStudyStartDate ScheduledStudyStartTime ScheduledStudyStopDate ScheduledStudyStopTime SelectorDAValue
     SelectorDTValue SelectorTMValue SourceStrengthReferenceDate SourceStrengthReferenceTime StudyArrivalDate
     StudyArrivalTime StudyCompletionDate StudyCompletionTime StudyReadDate StudyReadTime StudyVerifiedDate
     StudyVerifiedTime SubstanceAdministrationDateTime Time TimeOfDocumentCreationOrVerbalTransactionTrial
     TimeOfLastCalibration TimeOfLastDetectorCalibration TimeOfSecondaryCapture TimezoneOffsetFromUTC
     TreatmentControlPointDate TreatmentControlPointTime`
  ],
  [
    'X/D',
    'fullDates K,movedDates C',
    `ContrastBolusStartTime ContrastBolusStopTime EffectiveDateTime EndAcquisitionDateTime InterventionDrugStartTime
     InterventionDrugStopTime SeriesDate SeriesTime StartAcquisitionDateTime StructureSetDate StructureSetTime
     TreatmentDate TreatmentTime`
  ],
  ['X/Z', 'fullDates K,movedDates C', `AcquisitionDate AcquisitionTime`],
  ['X/Z/D', 'fullDates K,movedDates C', `AcquisitionDateTime`],
  ['Z', 'fullDates K,movedDates C', `StudyDate StudyTime`],
  [
    'Z/D',
    'fullDates K,movedDates C',
    `ContentDate ContentTime HangingProtocolCreationDateTime PresentationCreationDate PresentationCreationTime`
  ],
  [
    'D',
    'fullDates K,movedDates C',
    `AssertionDateTime AttributeModificationDateTime ExclusionStartDateTime InterlockDateTime
     RecordedRTControlPointDateTime VerificationDateTime`
  ],
  [
    'U',
    'uids K',
    `AcquisitionUID AnnotationGroupUID AssertionUID ConcatenationUID ConceptualVolumeUID
     ConstituentConceptualVolumeUID CreatorVersionUID DimensionOrganizationUID DoseReferenceUID
     DosimetricObjectiveUID FailedSOPInstanceUIDList FiducialUID FrameOfReferenceUID InstanceCreatorUID
     IrradiationEventUID LargePaletteColorLookupTableUID ManufacturerDeviceClassUID MediaStorageSOPInstanceUID
     MultiplexGroupUID ObservationSubjectUIDTrial ObservationUID PaletteColorLookupTableUID
     PatientSetupUID PresentationDisplayCollectionUID PresentationSequenceCollectionUID PyramidUID
     RTTreatmentPhaseUID ReferencedConceptualVolumeUID ReferencedDoseReferenceUID ReferencedDosimetricObjectiveUID
     ReferencedFiducialsUID ReferencedFrameOfReferenceUID
     ReferencedGeneralPurposeScheduledProcedureStepTransactionUID ReferencedSOPInstanceUID
     ReferencedSOPInstanceUIDInFile ReferencedTreatmentPositionGroupUID RelatedFrameOfReferenceUID
     RequestedSOPInstanceUID SOPInstanceUID SelectorUIValue SeriesInstanceUID SourceConceptualVolumeUID
     SourceFrameOfReferenceUID SpecimenUID StorageMediaFileSetUID StudyInstanceUID SynchronizationFrameOfReferenceUID
     TargetUID TemplateExtensionCreatorUID TemplateExtensionOrganizationUID TrackingUID TransactionUID
     TreatmentPositionGroupUID TreatmentSessionUID UID`
  ],
  ['X', 'uids K', `AffectedSOPInstanceUID`],
  [
    'X/Z/U*',
    'uids K',
    `ReferencedImageSequence ReferencedPerformedProcedureStepSequence ReferencedStudySequence SourceImageSequence`
  ]
];

/** Attributes that the standard has retired, which its registry no longer lists, and which old files still hold. */
const retired: Readonly<Record<string, string>> = {
  AcquisitionComments: '00184000',
  AddressTrial: '0040A353',
  Arbitrary: '40000010',
  CurrentObserverTrial: '0040A307',
  CurveDate: '00080025',
  CurveTime: '00080035',
  DateOfDocumentOrVerbalTransactionTrial: '0040A110',
  DischargeDate: '00380030',
  DischargeDiagnosisDescription: '00380040',
  DischargeTime: '00380032',
  DistributionAddress: '4008011A',
  DistributionName: '40080119',
  FindingsGroupRecordingDateTrial: '0040A023',
  FindingsGroupRecordingTimeTrial: '0040A024',
  IdentifyingComments: '00084000',
  ImagePresentationComments: '00284000',
  Impressions: '40080300',
  InsurancePlanIdentification: '00101050',
  InterpretationApprovalDate: '40080112',
  InterpretationApprovalTime: '40080113',
  InterpretationApproverSequence: '40080111',
  InterpretationAuthor: '4008010C',
  InterpretationDiagnosisDescription: '40080115',
  InterpretationID: '40080200',
  InterpretationIDIssuer: '40080202',
  InterpretationRecordedDate: '40080100',
  InterpretationRecordedTime: '40080101',
  InterpretationRecorder: '40080102',
  InterpretationText: '4008010B',
  InterpretationTranscriber: '4008010A',
  InterpretationTranscriptionDate: '40080108',
  InterpretationTranscriptionTime: '40080109',
  IssuerOfAdmissionID: '00380011',
  IssuerOfServiceEpisodeID: '00380061',
  LargePaletteColorLookupTableUID: '00281214',
  ModifiedImageDate: '00203403',
  ModifiedImageTime: '00203405',
  ObservationDateTrial: '0040A192',
  ObservationSubjectUIDTrial: '0040A402',
  ObservationTimeTrial: '0040A193',
  OverlayDate: '00080024',
  OverlayTime: '00080034',
  PhysicianApprovingInterpretation: '40080114',
  ReasonForStudy: '00321030',
  ReasonForTheImagingServiceRequest: '00402001',
  ReferencedGeneralPurposeScheduledProcedureStepTransactionUID: '00404023',
  RelatedFrameOfReferenceUID: '300600C2',
  ResultsComments: '40084000',
  ResultsDistributionListSequence: '40080118',
  ResultsID: '40080040',
  ResultsIDIssuer: '40080042',
  ScheduledAdmissionDate: '0038001A',
  ScheduledAdmissionTime: '0038001B',
  ScheduledDischargeDate: '0038001C',
  ScheduledDischargeTime: '0038001D',
  ScheduledPatientInstitutionResidence: '0038001E',
  ScheduledStudyLocation: '00321020',
  ScheduledStudyLocationAETitle: '00321021',
  ScheduledStudyStartDate: '00321000',
  ScheduledStudyStartTime: '00321001',
  ScheduledStudyStopDate: '00321010',
  ScheduledStudyStopTime: '00321011',
  SpecimenAccessionNumber: '0040050A',
  StudyArrivalDate: '00321040',
  StudyArrivalTime: '00321041',
  StudyComments: '00324000',
  StudyCompletionDate: '00321050',
  StudyCompletionTime: '00321051',
  StudyIDIssuer: '00320012',
  StudyReadDate: '00320034',
  StudyReadTime: '00320035',
  StudyVerifiedDate: '00320032',
  StudyVerifiedTime: '00320033',
  TelephoneNumberTrial: '0040A354',
  TemplateExtensionCreatorUID: '0040DB0D',
  TemplateExtensionOrganizationUID: '0040DB0C',
  TextComments: '40004000',
  TimeOfDocumentCreationOrVerbalTransactionTrial: '0040A112',
  TopicAuthor: '00880910',
  TopicKeywords: '00880912',
  TopicSubject: '00880906',
  TopicTitle: '00880904',
  UniformResourceLocatorTrial: '0040A992',
  VerbalSourceTrial: '0040A352'
};

function optionsOf(text: string): ProfileRow['options'] {
  return Object.fromEntries(
    text
      .split(',')
      .filter(Boolean)
      .map((each) => each.split(' '))
  ) as ProfileRow['options'];
}

const tagOf = (keyword: string): string => retired[keyword] ?? entryFor(keyword).tag;

/** Every row of the table, by tag. */
export const profileRows: ReadonlyMap<string, ProfileRow> = new Map(
  groups.flatMap(([basic, options, keywords]) =>
    keywords
      .trim()
      .split(/\s+/)
      .map((keyword): [string, ProfileRow] => [
        tagOf(keyword),
        { keyword, basic, options: optionsOf(options) }
      ])
  )
);

const rowsByRule = {
  private: { keyword: 'Private Attributes', basic: 'X', options: { safePrivate: 'C' } },
  curve: { keyword: 'Curve Data', basic: 'X', options: { graphics: 'C' } },
  overlay: { keyword: 'Overlay Data', basic: 'X', options: { graphics: 'C' } },
  overlayComments: { keyword: 'Overlay Comments', basic: 'X', options: { graphics: 'C' } }
} as const satisfies Record<string, ProfileRow>;

/** The row for an attribute: its own, or that of the groups that repeat; undefined where the table names none. */
export function profileRow(tag: string): ProfileRow | undefined {
  if (parseInt(tag.slice(0, 4), 16) % 2 === 1) return rowsByRule.private;
  if (/^50[0-9A-F]{2}/.test(tag)) return rowsByRule.curve;
  if (/^60[0-9A-F]{2}3000$/.test(tag)) return rowsByRule.overlay;
  if (/^60[0-9A-F]{2}4000$/.test(tag)) return rowsByRule.overlayComments;
  return profileRows.get(tag);
}
