import dicomParser from 'dicom-parser';
import { describe, expect, it } from 'vitest';
import { dataset } from './dataset';
import { decimalString, writeDicomFile } from './write';
import { exampleFacts } from './objects/exampleFacts.test-data';
import { datasetForPicture } from './objects/forPicture';

describe('writeDicomFile', () => {
  it('is read back by an independent parser, pixel for pixel', () => {
    const facts = exampleFacts();
    const file = writeDicomFile(datasetForPicture(facts));
    const parsed = dicomParser.parseDicom(file);
    expect(parsed.string('x00100010')).toBe('Planted^Name');
    expect(parsed.string('x00080016')).toBe('1.2.840.10008.5.1.4.1.1.1.3');
    expect(parsed.uint16('x00280010')).toBe(4);
    const { dataOffset, length } = parsed.elements.x7fe00010;
    const pixels = new Uint16Array(file.slice(dataOffset, dataOffset + length).buffer);
    expect(new Uint8Array(pixels.buffer)).toEqual(facts.pixels.bytes);
    const teeth = parsed.elements.x00082228.items!.map((item) => item.dataSet!.string('x00080100'));
    expect(teeth).toEqual(['16', '17', '46', '47']);
  });
  it('keeps names of any script', () => {
    const file = writeDicomFile(
      datasetForPicture(exampleFacts({ patient: { name: 'Łęcka^Žofie', id: '1', birthDate: '', sex: '' } }))
    );
    const parsed = dicomParser.parseDicom(file);
    const { dataOffset, length } = parsed.elements.x00100010;
    expect(new TextDecoder().decode(file.subarray(dataOffset, dataOffset + length)).trim()).toBe(
      'Łęcka^Žofie'
    );
  });
  it('wraps colour and unplaced pictures as secondary capture, an odd number of bytes padded', () => {
    const pixels = {
      ...exampleFacts().pixels,
      width: 3,
      height: 1,
      channels: 3 as const,
      bitsStored: 8,
      bytes: Uint8Array.from({ length: 9 }, (_, i) => i)
    };
    const parsed = dicomParser.parseDicom(
      writeDicomFile(datasetForPicture(exampleFacts({ pixels, slot: null })))
    );
    expect(parsed.string('x00080016')).toBe('1.2.840.10008.5.1.4.1.1.7');
    expect(parsed.elements.x7fe00010.length).toBe(10);
  });
  it('refuses a data set without its class, an unknown keyword and a UID that is none', () => {
    expect(() => writeDicomFile(dataset({ PatientName: 'x' }))).toThrow(RangeError);
    expect(() => dataset({ PatientsNme: 'x' })).toThrow(/keyword/);
    expect(() => writeDicomFile(dataset({ SOPClassUID: 'abc', SOPInstanceUID: '1.2' }))).toThrow(/no UID/);
  });
});

describe('decimalString', () => {
  it('fits 16 characters and loses as little as it can', () => {
    expect(decimalString(1 / 3)).toBe('0.33333333333333');
    expect(decimalString(-1.5e-10)).toBe('-1.5e-10');
    for (const value of [Math.PI * 1e-7, -Math.E * 1e12, 123456789.12345679, -1 / 3e5]) {
      expect(decimalString(value).length).toBeLessThanOrEqual(16);
      expect(Math.abs(Number(decimalString(value)) / value - 1)).toBeLessThan(1e-8);
    }
    expect(() => decimalString(NaN)).toThrow(RangeError);
  });
});
