import { convertBytes } from 'dicom-character-set';

/** Names of other standards under which files from elsewhere give their character set, by what they are here. */
const encodings: Record<string, string> = {
  UTF8: 'utf-8',
  ISOIR192: 'utf-8',
  ASCII: 'windows-1252',
  LATIN1: 'windows-1252',
  ISO88591: 'windows-1252',
  WINDOWS1252: 'windows-1252',
  CP1252: 'windows-1252',
  ISO885915: 'iso-8859-15',
  WINDOWS1250: 'windows-1250',
  WINDOWS1251: 'windows-1251',
  CP1251: 'windows-1251',
  KOI8R: 'koi8-r',
  GB2312: 'gb18030',
  GBK: 'gb18030',
  GB18030: 'gb18030',
  BIG5: 'big5',
  SHIFTJIS: 'shift_jis',
  SJIS: 'shift_jis',
  EUCJP: 'euc-jp',
  EUCKR: 'euc-kr',
  KSC5601: 'euc-kr',
  ISOIR149: 'euc-kr'
};

/** Repertoires of one byte a character, by their number (PS3.3 C.12.1.1.2). */
const singleByte = new Set([
  '6',
  '13',
  '100',
  '101',
  '109',
  '110',
  '126',
  '127',
  '138',
  '144',
  '148',
  '166',
  '203'
]);
const severalBytes = new Set(['58', '87', '149', '159']);

const bare = (name: string) => name.toUpperCase().replace(/[^A-Z0-9]/g, '');

/** One defined term as the standard spells it, or null for what is none. */
function definedTerm(name: string): string | null {
  const match = /^ISO(2022)?IR(\d+)$/.exec(bare(name));
  if (!match) return null;
  const [, extended, number] = match;
  if (extended && (singleByte.has(number) || severalBytes.has(number))) return `ISO 2022 IR ${number}`;
  return singleByte.has(number) ? `ISO_IR ${number}` : null;
}

export interface TextReader {
  /** A value's text. `vr` says where several values or components may stand. */
  read(bytes: Uint8Array, vr: string): string;
  /** What was wrong with the name of the character set, in words. */
  remark: string | null;
}

/**
 * How the texts of a file are read, by the values of its Specific Character Set. A name that is misspelt is understood
 * as it was meant; one that nobody knows is read as Latin letters, with a remark.
 */
export function textReader(named: readonly string[]): TextReader {
  const names = named.filter((name, i) => name !== '' || i === 0);
  if (names.length === 0 || (names.length === 1 && names[0] === '')) return through('ISO_IR 6', null);
  const [first] = names;
  if (names.length === 1 && encodings[bare(first)]) return decoding(encodings[bare(first)], null);
  const terms = names.map((name) => (name === '' ? '' : definedTerm(name)));
  if (terms.every((term) => term !== null)) {
    // Escape sequences are only read where the terms allow them.
    const several = terms.length > 1;
    const spelt = terms.map((term) => (several ? term.replace('ISO_IR ', 'ISO 2022 IR ') : term));
    return through(spelt.join('\\'), null);
  }
  return decoding(
    'windows-1252',
    `The file names a character set that is unknown (“${names.join(', ').slice(0, 40)}”); names in it may show wrong letters.`
  );
}

function through(term: string, remark: string | null): TextReader {
  const fallback = new TextDecoder('windows-1252');
  return {
    remark,
    read: (bytes, vr) => {
      try {
        return convertBytes(term, bytes, { vr });
      } catch {
        return fallback.decode(bytes);
      }
    }
  };
}

function decoding(encoding: string, remark: string | null): TextReader {
  const decoder = new TextDecoder(encoding);
  return { remark, read: (bytes) => decoder.decode(bytes) };
}
