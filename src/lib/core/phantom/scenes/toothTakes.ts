import { type Slot, slotTeeth } from '../../tray/slot';
import { mouthBody } from '../teeth/body';
import type { Mouth } from '../teeth/dentition';
import { beamTeeth, toothProjectionOf, toothView } from '../teeth/views';
import { type Detector, intraoralSensor } from '../xray/detector';
import { attenuationOf } from '../xray/radiograph';

/** A sensor with pixels twice as large: a quarter of the work for as true a picture. */
export const coarseSensor: Detector = {
  ...intraoralSensor,
  spreadPx: intraoralSensor.spreadPx / 2,
  scatterPx: intraoralSensor.scatterPx / 2,
  crispPx: intraoralSensor.crispPx / 2,
  eveningPx: intraoralSensor.eveningPx / 2
};

/** Attenuation of a slot's view, upright, to be exposed as often as one likes. */
export const coarseTake = (mouth: Mouth, slot: Slot) => takeOf(mouth, slot, 2);

/** The same in all of the sensor's pixels. */
export const fineTake = (mouth: Mouth, slot: Slot) => takeOf(mouth, slot, 1);

/** @param pixels of the sensor, along a side, that become one */
function takeOf(
  mouth: Mouth,
  slot: Slot,
  pixels: number
): { map: Float32Array; width: number; height: number } {
  const lying = slot.orientation.quarterTurns % 2 === 1;
  const fine = toothView(mouth, slotTeeth(slot), toothProjectionOf(slot), lying);
  const view = {
    ...fine,
    pitchMm: fine.pitchMm * pixels,
    width: fine.width / pixels,
    height: fine.height / pixels
  };
  const body = mouthBody(mouth, beamTeeth(mouth, slotTeeth(slot), toothProjectionOf(slot)));
  return { map: attenuationOf([body], view), width: view.width, height: view.height };
}
