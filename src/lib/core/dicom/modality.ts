import type { PictureKind } from '../picture/pictureView';

const kinds: Record<string, PictureKind> = {
  DX: 'radiograph',
  CR: 'radiograph',
  IO: 'radiograph',
  PX: 'radiograph',
  RG: 'radiograph',
  MG: 'radiograph',
  US: 'ultrasound',
  XC: 'photograph',
  GM: 'photograph',
  OP: 'photograph'
};

/** What a picture is by the modality its file names (PS3.3 C.7.3.1.1.1). */
export const kindOfModality = (modality: string): PictureKind =>
  kinds[modality.trim().toUpperCase()] ?? 'other';
