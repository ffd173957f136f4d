import { describe, expect, it } from 'vitest';
import { day, nextDay, people, patients, rooms } from './clinic';
import { inVain, past } from './past';
import { roomVisits } from './rooms';
import { shotsOf } from './teeth';

const records = new Set(patients.map((patient) => patient.record));

describe('the demo clinic', () => {
  it('has about thirty patients, a third of them animals, each with a number of their own', () => {
    expect(records.size).toBe(patients.length);
    expect(patients.length).toBeGreaterThanOrEqual(27);
    const animals = patients.filter((patient) => patient.kind === 'animal');
    expect(animals.length / patients.length).toBeGreaterThan(0.28);
    for (const animal of animals)
      expect([animal.species, animal.owner].every(Boolean), animal.given).toBe(true);
  });
  it('names nobody who is not there', () => {
    for (const { patient } of [...day, ...nextDay, ...past, ...roomVisits])
      expect(records.has(patient), patient).toBe(true);
    for (const { room } of [...day, ...nextDay, ...roomVisits])
      expect(
        rooms.some(({ name }) => name === room),
        room
      ).toBe(true);
    expect(new Set(people.map(({ role }) => role)).size).toBe(4);
  });
  it('has one visit a patient, room and day', () => {
    const visits = [...past, ...roomVisits].map(
      ({ patient, room, daysAgo }) => `${patient} ${room} ${daysAgo}`
    );
    expect(new Set(visits).size).toBe(visits.length);
    expect(Math.max(...[...past, ...roomVisits].map(({ daysAgo }) => daysAgo))).toBeLessThan(731);
  });
  it('opens what it makes today from an appointment of today', () => {
    for (const visit of [...past, ...roomVisits].filter(({ daysAgo }) => daysAgo === 0))
      expect(day.some(({ patient, room }) => patient === visit.patient && room === visit.room)).toBe(true);
  });
  it('lets no two appointments of a room overlap', () => {
    for (const a of day)
      for (const b of day)
        if (a !== b && a.room === b.room)
          expect(a.at + a.minutes <= b.at || b.at + b.minutes <= a.at, `${a.patient} and ${b.patient}`).toBe(
            true
          );
  });
  it('tells its four stories', () => {
    const full = past.find(({ series }) => series.pattern.pattern.slots.length === 18)!;
    expect(full.series.shots.filter(({ fault }) => fault)).toHaveLength(2);
    const root = past.find(({ series }) => series.anchorAt)!;
    expect(root.series.shots).toHaveLength(4);
    expect(new Set(root.series.shots.map(({ slotId }) => slotId)).size).toBe(1);
    const spine = roomVisits.filter(({ pictures }) => pictures.some(({ job }) => job.kind === 'spine front'));
    expect(spine).toHaveLength(3);
    const eye = roomVisits.find(({ pictures }) => pictures.length === 9)!;
    expect(eye.pictures.filter(({ job }) => job.kind === 'eye' && job.wish.blink)).toHaveLength(1);
    expect(inVain.series.shots.length).toBeGreaterThan(0);
  });
});

it('a retake follows its failed take at once, for the same slot', () => {
  const { pattern } = past[0].series;
  const [slotId] = pattern.route.order;
  const shots = shotsOf({ seed: 1 }, pattern, [{ slotId, fault: 'moved' }]);
  expect(shots.slice(0, 2).map((shot) => [shot.slotId, shot.fault])).toEqual([
    [slotId, 'moved'],
    [slotId, null]
  ]);
  expect(shots).toHaveLength(pattern.route.order.length + 1);
});
