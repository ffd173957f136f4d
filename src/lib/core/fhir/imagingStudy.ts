/** One picture as it lies in an archive. */
export interface StudyInstance {
  studyUid: string;
  seriesUid: string;
  instanceUid: string;
  sopClass: string;
  /** DICOM Modality, such as IO or DX. */
  modality: string;
}

export interface StudyOfVisit {
  /** The patient's number and who gave it. */
  patient: { issuer: string; value: string; name: string };
  startedAt: string;
  accession: string;
  reason: string;
  /** DICOMweb address of the archive. */
  archive: string;
  instances: readonly StudyInstance[];
}

const dicomUid = (uid: string) => ({ system: 'urn:dicom:uid', value: `urn:oid:${uid}` });
const modalitySystem = 'http://dicom.nema.org/resources/ontology/DCM';

/**
 * A visit's pictures as FHIR R4 tells them (ImagingStudy, HL7 v4.0.1), one resource for each study, its series and
 * instances in the order given. Its id is the study's UID: the same however often it is told.
 */
export function imagingStudies(visit: StudyOfVisit): Record<string, unknown>[] {
  const studies = [...new Set(visit.instances.map(({ studyUid }) => studyUid))];
  return studies.map((studyUid) => {
    const instances = visit.instances.filter((each) => each.studyUid === studyUid);
    const seriesUids = [...new Set(instances.map(({ seriesUid }) => seriesUid))];
    return {
      resourceType: 'ImagingStudy',
      id: studyUid,
      identifier: [
        dicomUid(studyUid),
        ...(visit.accession
          ? [
              {
                type: { coding: [{ system: 'http://terminology.hl7.org/CodeSystem/v2-0203', code: 'ACSN' }] },
                value: visit.accession
              }
            ]
          : [])
      ],
      status: 'available',
      modality: [...new Set(instances.map(({ modality }) => modality))].map(modalityCoding),
      subject: {
        type: 'Patient',
        identifier: { system: visit.patient.issuer, value: visit.patient.value },
        display: visit.patient.name
      },
      started: visit.startedAt,
      contained: [
        {
          resourceType: 'Endpoint',
          id: 'archive',
          status: 'active',
          connectionType: {
            system: 'http://terminology.hl7.org/CodeSystem/endpoint-connection-type',
            code: 'dicom-wado-rs'
          },
          payloadType: [{ text: 'DICOM' }],
          address: visit.archive
        }
      ],
      endpoint: [{ reference: '#archive' }],
      numberOfSeries: seriesUids.length,
      numberOfInstances: instances.length,
      ...(visit.reason ? { reasonCode: [{ text: visit.reason }] } : {}),
      series: seriesUids.map((uid) => {
        const own = instances.filter(({ seriesUid }) => seriesUid === uid);
        return {
          uid,
          modality: modalityCoding(own[0].modality),
          numberOfInstances: own.length,
          instance: own.map(({ instanceUid, sopClass }) => ({
            uid: instanceUid,
            sopClass: { system: 'urn:ietf:rfc:3986', code: `urn:oid:${sopClass}` }
          }))
        };
      })
    };
  });
}

const modalityCoding = (code: string) => ({ system: modalitySystem, code });
