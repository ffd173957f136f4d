import { describe, expect, it } from 'vitest';
import { dayOfBundle } from './day';

const patient = (more: object = {}) => ({
  resourceType: 'Patient',
  id: 'p1',
  identifier: [
    { system: 'urn:records', value: 'QS-9' },
    { system: 'urn:old', value: 'X', use: 'old' }
  ],
  name: [
    { use: 'old', family: 'Before', given: ['Nan'] },
    { use: 'official', family: 'Skerry', given: ['Nils', 'Olav'] }
  ],
  gender: 'male',
  birthDate: '1980-05-06',
  ...more
});
const appointment = (more: object = {}) => ({
  resourceType: 'Appointment',
  id: 'a1',
  status: 'booked',
  start: '2026-11-26T10:00:00+01:00',
  end: '2026-11-26T10:45:00+01:00',
  reasonCode: [{ text: 'Wrist' }],
  participant: [
    { actor: { reference: 'Patient/p1' } },
    { actor: { reference: 'Location/7', display: 'Bones' } }
  ],
  ...more
});
const first = (resource: object) => [...dayOfBundle([resource]).patients.values()][0];

describe('a patient of a practice system', () => {
  it('has the name in use, the numbers that hold, and a birth date that is known to the day', () => {
    expect(first(patient())).toMatchObject({
      givenName: 'Nils Olav',
      familyName: 'Skerry',
      identifiers: [{ issuer: 'urn:records', value: 'QS-9' }],
      birthDate: '1980-05-06',
      sex: 'M',
      kind: 'person'
    });
    expect(first(patient({ birthDate: '1980' })).birthDate).toBeNull();
    expect(first(patient({ name: [{ text: 'Skerry, Nils' }] }))).toMatchObject({
      givenName: 'Skerry, Nils',
      familyName: ''
    });
  });
  it('is an animal by its extension, with its owner', () => {
    const extension = [
      {
        url: 'http://hl7.org/fhir/StructureDefinition/patient-animal',
        extension: [
          { url: 'species', valueCodeableConcept: { coding: [{ display: 'dog' }] } },
          { url: 'breed', valueCodeableConcept: { text: 'sheepdog' } }
        ]
      }
    ];
    expect(first(patient({ extension, contact: [{ name: { text: 'Ilsa Fen' } }] }))).toMatchObject({
      kind: 'animal',
      species: 'dog',
      breed: 'sheepdog',
      owner: 'Ilsa Fen'
    });
  });
});

describe('an appointment of a practice system', () => {
  it('stands at its instant, as long as it lasts, in its room', () => {
    const { appointments } = dayOfBundle([appointment()]);
    expect(appointments).toEqual([
      {
        id: 'a1',
        patient: 'p1',
        room: 'Bones',
        startsAt: '2026-11-26T09:00:00.000Z',
        minutes: 45,
        reason: 'Wrist',
        off: false
      }
    ]);
  });
  it('that will not take place is told as such, and what can’t be read is counted and harms nothing', () => {
    const off = appointment({ id: 'a2', status: 'cancelled' });
    const rubbish = [
      appointment({ participant: [] }),
      appointment({ start: 'soon' }),
      { resourceType: 'Slot' },
      null,
      7
    ];
    const day = dayOfBundle([off, ...rubbish, patient()]);
    expect(day.appointments.map(({ id, off: is }) => [id, is])).toEqual([['a2', true]]);
    expect([day.unread, day.patients.size]).toEqual([5, 1]);
  });
});
