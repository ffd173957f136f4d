import { describe, expect, it } from 'vitest';
import { panoramicView } from '../tray/shipped/mouths';
import { fourBitewings } from '../tray/shipped/fourBitewings';
import { photographPatterns } from '../tray/shipped/photographs';
import { type Choosable, deviceFor } from './choose';
import { fitsSlot, useOf } from './fits';

const [bitewing] = fourBitewings.pattern.slots;
const [panoramic] = panoramicView.pattern.slots;
const [photograph] = photographPatterns[0].pattern.slots;
const device = (deviceId: string, kind: string, more: Partial<Choosable> = {}): Choosable => ({
  deviceId,
  kind,
  absent: false,
  trayId: null,
  ...more
});
const series = { trayId: 'this', settled: {} };

describe('which device takes a slot', () => {
  it('is the only one that can', () => {
    const room = [device('sensor', 'intraoral-sensor'), device('camera', 'camera')];
    expect(deviceFor(bitewing, room, series)).toBe('sensor');
    expect(deviceFor(photograph, room, series)).toBe('camera');
    expect(deviceFor(panoramic, room, series)).toBeNull();
  });
  it('has to be said where two can, unless it waits here already, or is of habit', () => {
    const room = [device('one', 'intraoral-sensor'), device('two', 'intraoral-sensor')];
    expect(deviceFor(bitewing, room, series)).toBeNull();
    expect(deviceFor(bitewing, room, { ...series, habit: { 'in the mouth': 'two' } })).toBe('two');
    const waiting = [room[0], device('two', 'intraoral-sensor', { trayId: 'this' })];
    expect(deviceFor(bitewing, waiting, { ...series, habit: { 'in the mouth': 'one' } })).toBe('two');
    expect(deviceFor(bitewing, waiting, { trayId: 'this', settled: { 'in the mouth': 'one' } })).toBe('one');
  });
  it('is never one that waits for another tray, and never an absent one', () => {
    const room = [
      device('busy', 'intraoral-sensor', { trayId: 'other' }),
      device('away', 'intraoral-sensor', { absent: true })
    ];
    expect(deviceFor(bitewing, room, series)).toBeNull();
    expect(deviceFor(bitewing, [...room, device('free', 'intraoral-sensor')], series)).toBe('free');
    // Whether plates will do while the sensor is busy elsewhere is for a person to say.
    const plates = device('plates', 'plate-scanner');
    expect(deviceFor(bitewing, [room[0], plates], series)).toBeNull();
    expect(deviceFor(bitewing, [room[1], plates], series)).toBe('plates');
  });
  it('is a plate scanner before a folder, and a sensor before both, unless somebody has said otherwise', () => {
    const room = [device('folder', 'folder'), device('plates', 'plate-scanner')];
    expect(deviceFor(bitewing, room, series)).toBe('plates');
    const all = [...room, device('sensor', 'intraoral-sensor')];
    expect(deviceFor(bitewing, all, series)).toBe('sensor');
    expect(deviceFor(bitewing, all, { ...series, habit: { 'in the mouth': 'plates' } })).toBe('plates');
  });
  it('is a folder only where nothing else can', () => {
    const folder = device('folder', 'folder');
    expect(deviceFor(bitewing, [folder, device('sensor', 'intraoral-sensor')], series)).toBe('sensor');
    expect(deviceFor(panoramic, [folder, device('sensor', 'intraoral-sensor')], series)).toBe('folder');
  });
  it('is of the kind that the slot names', () => {
    const plate = { ...bitewing, device: 'plate-scanner' as const };
    const room = [device('sensor', 'intraoral-sensor'), device('plates', 'plate-scanner')];
    expect(deviceFor(plate, room, { trayId: 'this', settled: { 'in the mouth': 'sensor' } })).toBe('plates');
    expect(fitsSlot('toaster', bitewing)).toBe(false);
  });
  it('follows from how the picture is made', () => {
    expect([bitewing, panoramic, photograph].map(({ projection }) => useOf(projection))).toEqual([
      'in the mouth',
      'from outside',
      'photographs'
    ]);
  });
});
