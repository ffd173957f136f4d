// What a sender says of pictures in JSON, and their pixels beside it, made into files (STOW-RS, metadata and bulk data).
import dcmjs from 'dcmjs';
import dicomParser from 'dicom-parser';
import type { Part } from './multipart';

interface Attribute {
  vr: string;
  Value?: unknown[];
  InlineBinary?: string;
  BulkDataURI?: string;
}
type Attributes = Record<string, Attribute>;

const implementationClass = '2.25.329800735698586629295641978511506172928';

/** @throws Error where a part is missing, or what is said can't be read */
export function wrapped(parts: readonly Part[]): Buffer[] {
  const [metadata, ...bulk] = parts;
  const instances = JSON.parse(metadata.bytes.toString('utf8')) as Attributes[];
  return instances.map((instance) => fileOf(instance, bulk));
}

function fileOf(instance: Attributes, bulk: readonly Part[]): Buffer {
  const found = Object.values(instance)
    .filter(({ BulkDataURI }) => BulkDataURI !== undefined)
    .map(({ BulkDataURI: uri }) => bulk.find(({ headers }) => headers['content-location'] === uri));
  const syntax = /transfer-syntax="?([0-9.]+)/.exec(found[0]?.headers['content-type'] ?? '')?.[1];
  if (found.some((part) => !part) || !syntax) throw new Error('bulk data are missing');
  const uid = (value: unknown) => ({ vr: 'UI', Value: [value] });
  const dict = new dcmjs.data.DicomDict({
    '00020001': { vr: 'OB', Value: [Uint8Array.of(0, 1).buffer] },
    '00020002': uid(instance['00080016'].Value![0]),
    '00020003': uid(instance['00080018'].Value![0]),
    '00020010': uid(syntax),
    '00020012': uid(implementationClass)
  });
  dict.dict = withBytes(instance, bulk);
  return Buffer.from(dict.write({ fragmentMultiframe: false }));
}

/** Bytes in place of what stands for them. */
function withBytes(attributes: Attributes, bulk: readonly Part[]): Attributes {
  return Object.fromEntries(
    Object.entries(attributes).map(([tag, { vr, Value, InlineBinary, BulkDataURI }]) => {
      if (BulkDataURI !== undefined)
        return [
          tag,
          {
            vr,
            Value: [alone(bulk.find(({ headers }) => headers['content-location'] === BulkDataURI)!.bytes)]
          }
        ];
      if (InlineBinary !== undefined)
        return [tag, { vr, Value: [alone(Buffer.from(InlineBinary, 'base64'))] }];
      if (vr === 'SQ')
        return [tag, { vr, Value: (Value ?? []).map((item) => withBytes(item as Attributes, bulk)) }];
      // That writer takes tags as numbers.
      if (vr === 'AT') return [tag, { vr, Value: (Value ?? []).map((each) => parseInt(String(each), 16)) }];
      return [tag, { vr, Value: Value ?? [] }];
    })
  );
}

/** In a memory of its own. */
const alone = (bytes: Buffer): ArrayBuffer => new Uint8Array(bytes).buffer;

/** The pixels of a still as they lie in a file (WADO-RS, frames). */
export function pixelsOf(file: Buffer): Buffer {
  const set = dicomParser.parseDicom(file);
  const { fragments, dataOffset, length } = set.elements.x7fe00010;
  if (!fragments) return file.subarray(dataOffset, dataOffset + length);
  return Buffer.from(
    dicomParser.readEncapsulatedPixelDataFromFragments(set, set.elements.x7fe00010, 0, fragments.length)
  );
}
