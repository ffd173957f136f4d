import fs from 'node:fs';
import path from 'node:path';
import dicomParser from 'dicom-parser';

/** What the archive keeps of an instance to answer questions with. Keys are DICOM tags. */
export interface Held {
  studyUid: string;
  seriesUid: string;
  instanceUid: string;
  classUid: string;
  patientId: string;
  patientName: string;
  studyDate: string;
  modality: string;
  file: string;
  /** How many times it was received; more than once means somebody sent it twice. */
  receipts: number;
}

/** A small archive on disk: one file an instance, and the index of them. */
export class Shelf {
  private readonly held = new Map<string, Held>();

  constructor(private readonly folder: string) {
    fs.mkdirSync(folder, { recursive: true });
    for (const name of fs.readdirSync(folder)) {
      if (!name.endsWith('.dcm')) continue;
      const held = this.describe(fs.readFileSync(path.join(folder, name)), name);
      if (held) this.held.set(held.instanceUid, held);
    }
  }

  private describe(bytes: Buffer, file: string): Held | null {
    try {
      const set = dicomParser.parseDicom(bytes, { untilTag: 'x7fe00010' });
      const text = (tag: string) => set.string(tag) ?? '';
      const held: Held = {
        studyUid: text('x0020000d'),
        seriesUid: text('x0020000e'),
        instanceUid: text('x00080018'),
        classUid: text('x00080016'),
        patientId: text('x00100020'),
        patientName: text('x00100010'),
        studyDate: text('x00080020'),
        modality: text('x00080060'),
        file,
        receipts: 1
      };
      return /^[0-9.]+$/.test(held.instanceUid) && held.studyUid && held.classUid ? held : null;
    } catch {
      return null;
    }
  }

  /** Keeps an instance on disk; the same one again replaces nothing and is counted. Null when it is no DICOM. */
  keep(bytes: Buffer): Held | null {
    const described = this.describe(bytes, '');
    if (!described) return null;
    const before = this.held.get(described.instanceUid);
    if (before) {
      before.receipts += 1;
      return before;
    }
    const file = `${described.instanceUid}.dcm`;
    const target = path.join(this.folder, file);
    fs.writeFileSync(`${target}.part`, bytes);
    fs.renameSync(`${target}.part`, target);
    const held = { ...described, file };
    this.held.set(held.instanceUid, held);
    return held;
  }

  find(wanted: Partial<Held>): Held[] {
    const entries = Object.entries(wanted).filter(([, value]) => value !== undefined && value !== '');
    return [...this.held.values()].filter((each) =>
      entries.every(([key, value]) => each[key as keyof Held] === value)
    );
  }

  bytes(held: Held): Buffer {
    return fs.readFileSync(path.join(this.folder, held.file));
  }
}
