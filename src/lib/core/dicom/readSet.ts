/** One data element of a file that was read: where its value lies, in which representation. */
export interface ReadElement {
  /** Eight hexadecimal digits, upper case. */
  tag: string;
  vr: string;
  /** Of the value, in the bytes of its set. */
  from: number;
  length: number;
  /** Of a sequence. */
  items: ReadSet[] | null;
  /** Of encapsulated pixel data: the offset table's item first, then what is compressed. */
  fragments: { from: number; length: number }[] | null;
}

/** A file, or an item of a sequence, whose values are read when they are asked for. */
export interface ReadSet {
  bytes: Uint8Array;
  littleEndian: boolean;
  elements: ReadonlyMap<string, ReadElement>;
}
