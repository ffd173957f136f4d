/** What a lossless JPEG holds: samples by pixel, as words whatever their precision. */
export interface LosslessJpeg {
  width: number;
  height: number;
  channels: number;
  precision: number;
  samples: Uint16Array;
}

/** The bytes are damaged, cut off, or JPEG of another process. */
export class NoLosslessJpeg extends Error {}

interface Component {
  id: number;
  table: HuffmanTable | null;
}
/** For every sixteen bits that may come: the length of the code they begin with (0: none), and its symbol. */
interface HuffmanTable {
  lengths: Uint8Array;
  symbols: Uint8Array;
}
interface Header {
  precision: number;
  width: number;
  height: number;
  components: Component[];
}

const mark = { soi: 0xd8, eoi: 0xd9, sos: 0xda, dht: 0xc4, sof3: 0xc3, dri: 0xdd, dnl: 0xdc };
const isRestart = (byte: number) => byte >= 0xd0 && byte <= 0xd7;
const mostSamples = 450_000_000;

/** Bits of a scan, most significant first, past stuffed zeros (ISO/IEC 10918-1, F.2.2.5). */
class Bits {
  private held = 0;
  private count = 0;
  /** Zeros that were put behind the last byte of the scan, to look ahead over its end. */
  private lent = 0;

  constructor(
    private readonly bytes: Uint8Array,
    public at: number
  ) {}

  private fill(): void {
    while (this.count <= 24) {
      let byte = 0;
      if (this.at >= this.bytes.length) this.lent += 8;
      else if (this.bytes[this.at] !== 0xff) byte = this.bytes[this.at++];
      else if (this.bytes[this.at + 1] === 0) {
        byte = 0xff;
        this.at += 2;
      } else this.lent += 8;
      this.held = ((this.held << 8) | byte) >>> 0;
      this.count += 8;
    }
  }

  symbol({ lengths, symbols }: HuffmanTable): number {
    if (this.count < 16) this.fill();
    const next = (this.held >>> (this.count - 16)) & 0xffff;
    const length = lengths[next];
    if (length === 0) throw new NoLosslessJpeg('a code that the table does not have');
    this.count -= length;
    if (this.count < this.lent) throw new NoLosslessJpeg('the scan ends early');
    return symbols[next];
  }

  /** The difference that so many further bits code (H.1.2.2). */
  difference(size: number): number {
    if (size === 0) return 0;
    if (size === 16) return 32_768;
    if (this.count < size) this.fill();
    this.count -= size;
    if (this.count < this.lent) throw new NoLosslessJpeg('the scan ends early');
    const value = (this.held >>> this.count) & ((1 << size) - 1);
    return value < 1 << (size - 1) ? value - (1 << size) + 1 : value;
  }

  /** On to behind the restart mark that stands here. */
  restart(): void {
    this.held = this.count = this.lent = 0;
    while (this.bytes[this.at] === 0xff && this.bytes[this.at + 1] === 0xff) this.at++;
    if (this.bytes[this.at] !== 0xff || !isRestart(this.bytes[this.at + 1]))
      throw new NoLosslessJpeg('a restart mark is missing');
    this.at += 2;
  }
}

function huffmanTable(counts: Uint8Array, values: Uint8Array): HuffmanTable {
  const table = { lengths: new Uint8Array(65_536), symbols: new Uint8Array(65_536) };
  let [code, at] = [0, 0];
  for (let length = 1; length <= 16; length++) {
    for (let i = 0; i < counts[length - 1]; i++, code++, at++) {
      const from = code << (16 - length);
      const to = from + (1 << (16 - length));
      if (to > 65_536 || values[at] > 16) throw new NoLosslessJpeg('a table that can’t be right');
      table.lengths.fill(length, from, to);
      table.symbols.fill(values[at], from, to);
    }
    code <<= 1;
  }
  return table;
}

/**
 * Decodes a lossless JPEG (ISO/IEC 10918-1, process 14, any predictor, Huffman coded), grey or with several components
 * of one size, interleaved or in scans of their own. Everything must be there: nothing is made up for what is missing.
 * @throws NoLosslessJpeg for anything else
 */
export function decodeLosslessJpeg(bytes: Uint8Array): LosslessJpeg {
  const word = (at: number) => {
    if (at + 2 > bytes.length) throw new NoLosslessJpeg('cut off');
    return (bytes[at] << 8) | bytes[at + 1];
  };
  if (bytes[0] !== 0xff || bytes[1] !== mark.soi) throw new NoLosslessJpeg('no JPEG');
  const tables: (HuffmanTable | null)[] = [null, null, null, null];
  let header: Header | null = null;
  let samples: Uint16Array | null = null;
  let restartEvery = 0;
  let decoded = 0;
  let at = 2;
  while (header === null || decoded < header.components.length) {
    while (at < bytes.length && bytes[at] !== 0xff) at++;
    if (at + 4 > bytes.length) throw new NoLosslessJpeg('cut off');
    const marker = bytes[at + 1];
    if (marker === 0xff) {
      at += 1;
      continue;
    }
    if (marker === mark.eoi) throw new NoLosslessJpeg('a component is missing');
    const from = at + 4;
    const end = at + 2 + word(at + 2);
    if (end > bytes.length) throw new NoLosslessJpeg('cut off');
    at = end;
    if (marker === mark.dht) readTables(bytes.subarray(from, end), tables);
    else if (marker === mark.dri) restartEvery = word(from);
    else if (marker === mark.sof3) {
      header = readHeader(bytes.subarray(from, end));
      if (header.width * header.height * header.components.length > mostSamples)
        throw new NoLosslessJpeg('too large');
      samples = new Uint16Array(header.width * header.height * header.components.length);
    } else if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc8 && marker !== 0xcc)
      throw new NoLosslessJpeg('another process');
    else if (marker === mark.sos) {
      if (!header || !samples) throw new NoLosslessJpeg('a scan before its frame');
      const scan = readScan(bytes.subarray(from, end), header, tables);
      at = decodeScan(bytes, at, header, scan, restartEvery, samples);
      decoded += scan.scanned.length;
    }
  }
  const { width, height, components, precision } = header;
  return { width, height, channels: components.length, precision, samples: samples! };
}

function readTables(bytes: Uint8Array, tables: (HuffmanTable | null)[]): void {
  let at = 0;
  while (at + 17 <= bytes.length) {
    const counts = bytes.subarray(at + 1, at + 17);
    const total = counts.reduce((sum, count) => sum + count, 0);
    if (at + 17 + total > bytes.length) throw new NoLosslessJpeg('a table is cut off');
    tables[bytes[at] & 3] = huffmanTable(counts, bytes.subarray(at + 17, at + 17 + total));
    at += 17 + total;
  }
}

function readHeader(bytes: Uint8Array): Header {
  const [precision, high, low, wide, narrow, count] = bytes;
  const components = Array.from({ length: count ?? 0 }, (_, i) => {
    if (bytes[7 + 3 * i] !== 0x11) throw new NoLosslessJpeg('components of several sizes');
    return { id: bytes[6 + 3 * i], table: null };
  });
  const header = { precision, height: (high << 8) | low, width: (wide << 8) | narrow, components };
  if (!(precision >= 2 && precision <= 16 && header.width > 0 && header.height > 0 && components.length > 0))
    throw new NoLosslessJpeg('a frame that can’t be right');
  return header;
}

interface Scan {
  /** Which components it holds, by their place in the frame, with their tables. */
  scanned: { place: number; table: HuffmanTable }[];
  predictor: number;
  shift: number;
}

function readScan(bytes: Uint8Array, { components }: Header, tables: (HuffmanTable | null)[]): Scan {
  const scanned = Array.from({ length: bytes[0] }, (_, i) => {
    const place = components.findIndex(({ id }) => id === bytes[1 + 2 * i]);
    const table = tables[(bytes[2 + 2 * i] >> 4) & 3];
    if (place < 0 || !table) throw new NoLosslessJpeg('a scan of nothing');
    return { place, table };
  });
  const predictor = bytes[1 + 2 * bytes[0]];
  if (!(predictor >= 1 && predictor <= 7) || scanned.length === 0)
    throw new NoLosslessJpeg('another process');
  return { scanned, predictor, shift: bytes[3 + 2 * bytes[0]] & 15 };
}

/** @returns where the scan ends */
function decodeScan(
  bytes: Uint8Array,
  from: number,
  { width, height, components, precision }: Header,
  { scanned, predictor, shift }: Scan,
  restartEvery: number,
  out: Uint16Array
): number {
  const bits = new Bits(bytes, from);
  const step = components.length;
  const row = width * step;
  const middle = 1 << (precision - shift - 1);
  let firstRow = 0;
  let untilRestart = restartEvery;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (restartEvery > 0 && untilRestart-- === 0) {
        bits.restart();
        untilRestart = restartEvery - 1;
        firstRow = y;
      }
      for (const { place, table } of scanned) {
        const at = y * row + x * step + place;
        let predicted: number;
        if (y === firstRow) predicted = x === 0 ? middle : out[at - step];
        else if (x === 0) predicted = out[at - row];
        else predicted = prediction(predictor, out[at - step], out[at - row], out[at - row - step]);
        out[at] = predicted + bits.difference(bits.symbol(table));
      }
    }
  if (shift > 0)
    for (const { place } of scanned) for (let i = place; i < out.length; i += step) out[i] <<= shift;
  return bits.at;
}

/** From the samples to the left, above, and above to the left (table H.1). */
function prediction(predictor: number, left: number, above: number, corner: number): number {
  switch (predictor) {
    case 1:
      return left;
    case 2:
      return above;
    case 3:
      return corner;
    case 4:
      return left + above - corner;
    case 5:
      return left + ((above - corner) >> 1);
    case 6:
      return above + ((left - corner) >> 1);
    default:
      return (left + above) >> 1;
  }
}
