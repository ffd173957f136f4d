import { fileTypeFromBuffer } from 'file-type';
import { dicomStart } from '../../../core/dicom/read';
import { Unusable } from './opened';

export type FileKind = 'dicom' | 'png' | 'jpeg' | 'tiff';

/** Media types that are opened. */
const opened: Record<string, FileKind> = {
  'application/dicom': 'dicom',
  'image/png': 'png',
  'image/apng': 'png',
  'image/jpeg': 'jpeg',
  'image/tiff': 'tiff'
};

/** Others that people try, in their words. */
const known: Record<string, string> = {
  'application/pdf': 'a PDF document',
  'application/zip': 'a ZIP package',
  'image/gif': 'a GIF picture',
  'image/bmp': 'a bitmap',
  'image/heic': 'a HEIC picture from a phone',
  'image/webp': 'a WebP picture',
  'video/mp4': 'a video',
  'video/quicktime': 'a video'
};

/** What a file really is, by what is in it and never by its name. */
export async function sniff(bytes: Uint8Array): Promise<FileKind> {
  if (bytes.length === 0) {
    throw new Unusable('empty', 'This file is empty.', 'Copy it again from where it came.');
  }
  // Data sets without preamble have no mark of their own, so they are told by how they begin.
  if (dicomStart(bytes) !== null) return 'dicom';
  const type = await fileTypeFromBuffer(bytes);
  const kind = type && opened[type.mime];
  if (kind) return kind;
  throw new Unusable(
    'unknown-kind',
    `This is ${(type && known[type.mime]) ?? guess(bytes)}, not a picture that can be opened.`,
    type?.mime === 'application/pdf'
      ? 'Papers lie with the visit’s story: bring it in there.'
      : 'Bring in DICOM, PNG, JPEG or TIFF.'
  );
}

function guess(bytes: Uint8Array): string {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 256)).trimStart().toLowerCase();
  return text.startsWith('<!doctype html') || text.startsWith('<html')
    ? 'a web page'
    : 'a file of an unknown kind';
}
