import { describe, expect, it } from 'vitest';
import { type StudyInstance, imagingStudies } from './imagingStudy';

const instance = (n: number, changes: Partial<StudyInstance> = {}): StudyInstance => ({
  studyUid: '1.2.3',
  seriesUid: '1.2.3.1',
  instanceUid: `1.2.3.1.${n}`,
  sopClass: '1.2.840.10008.5.1.4.1.1.1.3',
  modality: 'IO',
  ...changes
});
const visit = {
  patient: { issuer: 'urn:records', value: 'QS-9', name: 'Nils Skerry' },
  startedAt: '2026-11-26T09:00:00.000Z',
  accession: 'Q261126-ABCDE',
  reason: 'Check-up',
  archive: 'https://archive.test/dicom'
};

describe('the pictures of a visit, as told to a practice system', () => {
  it('are one study of series, counted, under the patient’s own number', () => {
    const photograph = instance(3, {
      seriesUid: '1.2.3.2',
      modality: 'XC',
      sopClass: '1.2.840.10008.5.1.4.1.1.77.1.4'
    });
    const [study, ...others] = imagingStudies({
      ...visit,
      instances: [instance(1), photograph, instance(2)]
    });
    expect(others).toEqual([]);
    expect(study).toMatchObject({
      resourceType: 'ImagingStudy',
      id: '1.2.3',
      status: 'available',
      subject: { identifier: { system: 'urn:records', value: 'QS-9' } },
      started: '2026-11-26T09:00:00.000Z',
      numberOfSeries: 2,
      numberOfInstances: 3,
      modality: [{ code: 'IO' }, { code: 'XC' }],
      endpoint: [{ reference: '#archive' }],
      series: [
        { uid: '1.2.3.1', numberOfInstances: 2, modality: { code: 'IO' } },
        { uid: '1.2.3.2', numberOfInstances: 1, modality: { code: 'XC' } }
      ]
    });
    expect(study.identifier).toContainEqual({ system: 'urn:dicom:uid', value: 'urn:oid:1.2.3' });
    expect((study.series as { instance: object[] }[])[0].instance[0]).toEqual({
      uid: '1.2.3.1.1',
      sopClass: { system: 'urn:ietf:rfc:3986', code: 'urn:oid:1.2.840.10008.5.1.4.1.1.1.3' }
    });
  });

  it('are one resource for each study, and say nothing that is not known', () => {
    const both = imagingStudies({
      ...visit,
      accession: '',
      reason: '',
      instances: [instance(1), instance(2, { studyUid: '1.9' })]
    });
    expect(both.map(({ id }) => id)).toEqual(['1.2.3', '1.9']);
    expect(both[0].identifier).toHaveLength(1);
    expect(both[0]).not.toHaveProperty('reasonCode');
    expect(imagingStudies({ ...visit, instances: [] })).toEqual([]);
  });
});
