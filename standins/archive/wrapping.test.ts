import dicomParser, { type DataSet } from 'dicom-parser';
import { describe, expect, it } from 'vitest';
import { pixelDataTag } from '../../src/lib/core/dicom/dictionary';
import { dicomJson } from '../../src/lib/core/dicom/json';
import { everyKind } from '../../src/lib/core/dicom/objects/everyKind.test-data';
import { exampleFacts } from '../../src/lib/core/dicom/objects/exampleFacts.test-data';
import { datasetForPicture } from '../../src/lib/core/dicom/objects/forPicture';
import { pixelBody } from '../../src/lib/core/dicom/pixelBody';
import { writeDicomFile } from '../../src/lib/core/dicom/write';
import type { Part } from './multipart';
import { pixelsOf, wrapped } from './wrapping';

/** What an object says, for a comparison: bytes by their digits, sequences by what stands in them. */
function said(set: DataSet): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(set.elements)
      .filter(([tag]) => !tag.startsWith('x0002') && tag !== 'xfffee00d')
      .map(([tag, { items, dataOffset, length, vr }]) => {
        if (items) return [tag, items.map((item) => said(item.dataSet!))];
        const bytes = Buffer.from(set.byteArray.subarray(dataOffset, dataOffset + length));
        return [tag, `${vr} ${bytes.toString('hex').replace(/(00|20)$/, '')}`];
      })
  );
}

function told(set: ReturnType<typeof datasetForPicture>): Part[] {
  const { vr, type, transferSyntax, bytes } = pixelBody(set);
  const metadata = dicomJson(set, { [pixelDataTag]: { vr, uri: 'pixels' } });
  return [
    { headers: {}, bytes: Buffer.from(JSON.stringify([metadata])) },
    {
      headers: {
        'content-type': `${type}; transfer-syntax=${transferSyntax}`,
        'content-location': 'pixels'
      },
      bytes: Buffer.from(bytes)
    }
  ];
}

describe('an archive that wraps', () => {
  it.each(Object.entries(everyKind))('%s: says what we say, by another program’s writer', (_, changes) => {
    const set = datasetForPicture(exampleFacts(changes));
    const [file] = wrapped(told(set));
    expect(said(dicomParser.parseDicom(file))).toEqual(said(dicomParser.parseDicom(writeDicomFile(set))));
    expect(pixelsOf(file).subarray(0, pixelBody(set).bytes.length)).toEqual(
      Buffer.from(pixelBody(set).bytes)
    );
  });
  it('refuses what names a part that did not come', () => {
    const [metadata] = told(datasetForPicture(exampleFacts()));
    expect(() => wrapped([metadata])).toThrow(/missing/);
    expect(() => wrapped([{ headers: {}, bytes: Buffer.from('<html>') }])).toThrow();
  });
});
