import { pixelDataTag } from '../../../core/dicom/dictionary';
import { type ReadFile, explicitBig, explicitLittle, implicitLittle } from '../../../core/dicom/read';
import { canDecode } from './codecs';

const native = [implicitLittle, explicitLittle, explicitBig, '1.2.840.10008.1.2.1.99'];
export const isNative = (syntax: string): boolean => native.includes(syntax);

/**
 * The transfer syntax by which pixel data is read: the one that the file names, or, where that is none or can't be, the
 * one that its pixel data looks like, with a remark.
 */
export function syntaxOf(set: ReadFile, remarks: string[]): string {
  const said = set.transferSyntax;
  const fragments = set.elements.get(pixelDataTag)!.fragments;
  const known = isNative(said) || canDecode(said) || /^1\.2\.840\.10008\.1\.2\.4\.\d+$/.test(said);
  if (known && isNative(said) === (fragments === null)) return said;
  const looks = fragments === null ? native[set.littleEndian ? 1 : 2] : compressedAs(set, fragments[1]);
  if (looks === null || (known && !isNative(said))) return said;
  remarks.push('The file says wrongly how its picture is stored; it was read by its looks.');
  return looks;
}

/** By the marks a compressed frame begins with: JPEG and its kinds, JPEG 2000, or the table of run lengths. */
function compressedAs(set: ReadFile, piece: { from: number; length: number } | undefined): string | null {
  if (!piece || piece.length < 64) return null;
  const bytes = set.bytes.subarray(piece.from, piece.from + piece.length);
  if (bytes[0] === 0xff && bytes[1] === 0x4f) return '1.2.840.10008.1.2.4.90';
  if (bytes[0] === 0xff && bytes[1] === 0xd8) return jpegKind(bytes);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const segments = view.getUint32(0, true);
  return segments >= 1 && segments <= 6 && view.getUint32(4, true) === 64 ? '1.2.840.10008.1.2.5' : null;
}

const byFrameMark: Record<number, string> = {
  0xc0: '1.2.840.10008.1.2.4.50',
  0xc3: '1.2.840.10008.1.2.4.70',
  0xf7: '1.2.840.10008.1.2.4.80'
};

function jpegKind(bytes: Uint8Array): string | null {
  for (
    let at = 2;
    at + 4 <= bytes.length && bytes[at] === 0xff;
    at += 2 + ((bytes[at + 2] << 8) | bytes[at + 3])
  ) {
    const syntax = byFrameMark[bytes[at + 1]];
    if (syntax) return syntax;
  }
  return null;
}
