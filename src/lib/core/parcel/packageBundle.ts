import type { PackedPaper, PageOf, ParcelPatient } from './packageParts';

/** As an address: each step of the way by itself. */
export const asLink = (file: string): string => file.split('/').map(encodeURIComponent).join('/');
const genders = { '': undefined, F: 'female', M: 'male', O: 'other' } as const;
const uid = (value: string) => ({ system: 'urn:dicom:uid', value: `urn:oid:${value}` });

/**
 * What a package holds as FHIR R4 tells it (HL7 v4.0.1): a Patient each, an ImagingStudy for each study, and a
 * DocumentReference for each paper, by where it lies in the package.
 */
export function packageBundle(
  patients: readonly ParcelPatient[],
  pictures: readonly PageOf[],
  papers: readonly PackedPaper[] = []
): Record<string, unknown> {
  const studies = new Map<string, PageOf[]>();
  for (const picture of pictures)
    if (picture.uids)
      studies.set(picture.uids.studyUid, [...(studies.get(picture.uids.studyUid) ?? []), picture]);
  const one = patients.length === 1 ? patients[0] : null;
  const entry = (resource: Record<string, unknown>) => ({ resource });
  return {
    resourceType: 'Bundle',
    type: 'collection',
    entry: [
      ...patients.map(({ id, name, born, sex }, i) =>
        entry({
          resourceType: 'Patient',
          id: `patient-${i + 1}`,
          identifier: [{ value: id }],
          ...(name ? { name: [{ family: name.family, given: name.given.split(' ').filter(Boolean) }] } : {}),
          ...(born ? { birthDate: born } : {}),
          ...(genders[sex] ? { gender: genders[sex] } : {})
        })
      ),
      ...[...studies].map(([studyUid, all], i) =>
        entry({
          resourceType: 'ImagingStudy',
          id: `study-${i + 1}`,
          identifier: [uid(studyUid)],
          status: 'available',
          subject: one ? { reference: 'Patient/patient-1' } : { identifier: { value: all[0].number } },
          ...(/^\d{4}-\d{2}-\d{2}$/.test(all[0].date) ? { started: all[0].date } : {}),
          series: [...new Set(all.map((each) => each.uids!.seriesUid))].map((seriesUid) => {
            const own = all.filter((each) => each.uids!.seriesUid === seriesUid);
            return {
              uid: seriesUid,
              modality: {
                system: 'http://dicom.nema.org/resources/ontology/DCM',
                code: own[0].uids!.modality
              },
              instance: own.map(({ uids, what }) => ({
                uid: uids!.instanceUid,
                sopClass: { system: 'urn:ietf:rfc:3986', code: `urn:oid:${uids!.sopClass}` },
                title: what
              }))
            };
          })
        })
      ),
      ...papers.map(({ title, file }, i) =>
        entry({
          resourceType: 'DocumentReference',
          id: `paper-${i + 1}`,
          status: 'current',
          ...(one ? { subject: { reference: 'Patient/patient-1' } } : {}),
          content: [{ attachment: { contentType: 'application/pdf', url: asLink(file), title } }]
        })
      )
    ]
  };
}
