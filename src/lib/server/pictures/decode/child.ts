// A process of its own that opens files from outside. Whatever they do to it, it is ended and another takes its place.
import { decodeDicomFile } from './dicomFile';
import { Unusable } from './decoded';
import { decodePictureFile } from './pictureFile';
import { sniff } from './sniff';

async function decode(bytes: Uint8Array) {
  const kind = sniff(bytes);
  return kind === 'dicom' ? decodeDicomFile(bytes) : decodePictureFile(bytes, kind);
}

process.on('message', (message: { id: number; bytes: Uint8Array }) => {
  decode(message.bytes)
    .then((decoded) => process.send!({ id: message.id, decoded }))
    .catch((error: unknown) => {
      const refused = error instanceof Unusable;
      process.send!({
        id: message.id,
        refused: refused ? { code: error.code, sentence: error.sentence, next: error.next } : null,
        fault: refused ? null : String(error)
      });
    });
});
process.on('disconnect', () => process.exit(0));
process.send!({ ready: true });
