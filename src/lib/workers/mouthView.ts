import { mouthPhotograph } from '../core/phantom/photo/closeUps';
import { mouth } from '../core/phantom/teeth/dentition';
import { ordinaryMouth } from '../core/phantom/teeth/ordinaryMouth';

export interface MouthView {
  width: number;
  height: number;
  /** Red, green, blue, opacity. */
  pixels: Uint8ClampedArray;
}

/** What a camera in a simulated mouth would see, for the demo. The same seed is the same patient. */
export function mouthView(seed: number): MouthView {
  const { width, height, data } = mouthPhotograph(mouth(ordinaryMouth(seed)), seed);
  const pixels = new Uint8ClampedArray(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    for (let channel = 0; channel < 3; channel++) pixels[i * 4 + channel] = data[i * 3 + channel];
    pixels[i * 4 + 3] = 255;
  }
  return { width, height, pixels };
}
