import { openDicomFile } from './dicomFile';
import type { Announce, OpenFile } from './opened';
import { openPictureFile } from './pictureFile';
import { sniff } from './sniff';

/** Opens a file from outside. Whatever it holds: only to be called where it can be ended. */
export async function openFile(bytes: Uint8Array, announce: Announce = () => {}): Promise<OpenFile> {
  const kind = await sniff(bytes);
  return kind === 'dicom' ? openDicomFile(bytes, announce) : openPictureFile(bytes, kind, announce);
}
