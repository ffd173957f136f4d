import type { Tooth } from '../../anatomy/teeth';

/** Millimetres: crown height, root length, width along the arch, depth across it. Usual averages of adults, rounded. */
export interface ToothSize {
  crown: number;
  root: number;
  width: number;
  depth: number;
}

const size = (crown: number, root: number, width: number, depth: number): ToothSize => ({
  crown,
  root,
  width,
  depth
});

const upper = [
  size(10.5, 13, 8.5, 7),
  size(9, 13, 6.5, 6),
  size(10, 17, 7.5, 8),
  size(8.5, 14, 7, 9),
  size(8.5, 14, 6.8, 9),
  size(7.5, 12.5, 10.2, 11),
  size(7, 11.5, 9.4, 11),
  size(6.5, 10.5, 8.6, 10)
];
const lower = [
  size(9, 12.5, 5.2, 6),
  size(9.3, 13.5, 5.8, 6.4),
  size(11, 16, 7, 7.6),
  size(8.5, 14, 7, 7.6),
  size(8, 14.5, 7.1, 8),
  size(7.5, 14, 11, 10.4),
  size(7, 13, 10.5, 10),
  size(7, 11, 10, 9.5)
];

export const isUpper = (tooth: Tooth): boolean => tooth < 30;
export const isLeft = (tooth: Tooth): boolean => Math.floor(tooth / 10) === 2 || Math.floor(tooth / 10) === 3;
export const placeOf = (tooth: Tooth): number => tooth % 10;
export const sizeOf = (tooth: Tooth): ToothSize => (isUpper(tooth) ? upper : lower)[placeOf(tooth) - 1];
