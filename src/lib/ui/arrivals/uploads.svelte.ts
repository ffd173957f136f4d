import { toast } from 'svelte-sonner';
import { isToRead } from '$core/arrivals/packageFiles';
import { dicomStart } from '$core/dicom/read';
import { naturally } from '$core/text';
import { Refused, ask, attempt, noAnswer } from '../net/send';

interface Incoming {
  path: string;
  file: File;
}

/** How a page brings files in: so many at once, and so long between tries while the server is away. */
const atOnce = 4;
const againMs = 2_000;
const mostTries = 30;

/** Files on their way to Arrivals, also while another page is looked at. What came in stays, whatever happens. */
class Uploads {
  /** The intake that is going on; null where none is. */
  intakeId = $state<string | null>(null);
  name = $state('');
  said = $state(0);
  done = $state(0);
  /** Files a second, over what has been sent so far. */
  rate = $state(0);
  private stopped = false;
  /** What was dropped while something came in: its turn comes. */
  private after: { incoming: Promise<Incoming[]> | Incoming[]; name: string }[] = [];
  /** Files that the machine itself could not read. */
  private unread: string[] = [];

  /** Brings in what was dropped or picked, folders with all that is in them; after what is coming in already. */
  async bring(incoming: Promise<Incoming[]> | Incoming[], name = ''): Promise<void> {
    if (this.intakeId) {
      this.after.push({ incoming, name });
      toast.info('Comes in after what is coming in now.');
      return;
    }
    this.intakeId = 'beginning';
    try {
      await this.bringOne(await incoming, name);
    } finally {
      this.intakeId = null;
    }
    const next = this.after.shift();
    if (next) await this.bring(next.incoming, next.name);
  }

  private async bringOne(found: readonly Incoming[], name: string): Promise<void> {
    const isRead = isToRead(found.map(({ path }) => path));
    // Folders tell their files in any order.
    const files = found.filter(({ path }) => isRead(path)).toSorted((a, b) => naturally(a.path, b.path));
    if (files.length === 0) return;
    this.name = name || nameOf(files);
    this.said = files.length;
    this.done = 0;
    this.rate = 0;
    this.stopped = false;
    this.unread = [];
    const begun = await attempt(async () => {
      const { intakeId } = await ask<{ intakeId: string }>('/api/intakes', {
        name: this.name,
        said: files.length
      });
      this.intakeId = intakeId;
    });
    if (!begun) return;
    const surveying = survey(`/api/intakes/${this.intakeId}/heads`, files, () => this.stopped);
    await Promise.race([surveying, new Promise((done) => setTimeout(done, surveyedFirstMs))]);
    await this.send(files);
  }

  private async send(files: readonly Incoming[]): Promise<void> {
    const intake = `/api/intakes/${this.intakeId}`;
    const started = performance.now();
    let next = 0;
    const one = async () => {
      while (next < files.length && !this.stopped) {
        const { path, file } = files[next++];
        await this.offer(`${intake}/files?path=${encodeURIComponent(path)}`, file);
        this.done += 1;
        this.rate = (1000 * this.done) / (performance.now() - started);
      }
    };
    try {
      await Promise.all(Array.from({ length: atOnce }, one));
      await attempt(() => ask(intake, { kind: this.stopped ? 'cancel' : 'end' }));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      toast.error(error.sentence, {
        description: `${error.next} Drop it again then: what is here already is not doubled.`
      });
      // What can't be told now is found out and ended by the server itself.
      await ask(intake, { kind: 'cancel' }).catch(() => {});
    }
    const [first] = this.unread;
    if (first)
      toast.warning(
        this.unread.length === 1
          ? `${first} can’t be read from the disc.`
          : `${this.unread.length} files can’t be read from the disc, ${first} first.`,
        {
          description: 'Clean the disc and drop it again, or ask for a new one. The rest came in.',
          duration: 15_000
        }
      );
  }

  /** Offers one file until the server has it or refuses it; the same place twice is one file. */
  private async offer(url: string, file: File): Promise<void> {
    if (!(await readable(file))) {
      this.unread.push(file.name);
      return;
    }
    for (let tries = 1; !this.stopped; tries++) {
      try {
        const answer = await fetch(url, {
          method: 'POST',
          headers: { 'content-type': 'application/octet-stream' },
          body: file
        });
        if (answer.ok) return;
        const said = (await answer.json().catch(() => ({}))) as { sentence?: string; next?: string };
        if (answer.status < 500)
          throw new Refused(answer.status, 'refused', said.sentence ?? 'This was refused.', said.next ?? '');
      } catch (error) {
        if (error instanceof Refused) throw error;
        if (tries >= mostTries) throw noAnswer();
      }
      await new Promise((done) => setTimeout(done, againMs));
    }
  }

  stop(): void {
    this.stopped = true;
  }
}

export const uploads = new Uploads();

/** Of fewer files it is seen soon enough whose they are. */
const fewestSurveyed = 12;
/** So long the beginnings of files go ahead of them; what takes longer goes on beside them. */
const surveyedFirstMs = 3_000;
const headBytes = 16 * 1024;
const headsAtOnce = 128;

/** Sends the beginnings of DICOM files ahead, so that it is told whose they are before they have come. */
async function survey(url: string, files: readonly Incoming[], isStopped: () => boolean): Promise<void> {
  if (files.length < fewestSurveyed) return;
  for (let from = 0; from < files.length && !isStopped(); from += headsAtOnce) {
    const some = files.slice(from, from + headsAtOnce);
    const heads = (await Promise.all(some.map(({ file }) => headOf(file)))).flat();
    if (heads.length === 0) continue;
    const body = new Blob(heads.flatMap((head) => [lengthBefore(head), head]));
    // It tells ahead and no more: what is lost of it is told by what is read.
    const headers = { 'content-type': 'application/octet-stream' };
    await fetch(url, { method: 'POST', headers, body }).catch(() => {});
  }
}

async function headOf(file: File): Promise<Uint8Array<ArrayBuffer>[]> {
  const head = new Uint8Array(
    await file
      .slice(0, headBytes)
      .arrayBuffer()
      .catch(() => new ArrayBuffer(0))
  );
  return dicomStart(head) === null ? [] : [head];
}

function lengthBefore({ length }: Uint8Array): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(4);
  new DataView(bytes.buffer).setUint32(0, length, true);
  return bytes;
}

/** Whether the machine gives a file's first and last bytes. */
const readable = (file: File): Promise<boolean> =>
  Promise.all([file.slice(0, 1).arrayBuffer(), file.slice(-1).arrayBuffer()]).then(
    () => true,
    () => false
  );

const nameOf = (files: readonly Incoming[]): string => {
  const tops = new Set(files.map(({ path }) => (path.includes('/') ? path.split('/')[0] : '')));
  const [top] = tops;
  if (tops.size === 1 && top) return top;
  return files.length === 1 ? files[0].file.name : `${files.length} files`;
};

/** Files as they were picked, with the folders they lie in. */
export const pickedFiles = (list: FileList | null): Incoming[] =>
  [...(list ?? [])].map((file) => ({ file, path: file.webkitRelativePath || file.name }));

/** All that was dropped, folders gone through. The entries have to be taken before the event is over. */
export async function droppedFiles(transfer: DataTransfer): Promise<Incoming[]> {
  const entries = [...transfer.items].flatMap((item) =>
    item.kind === 'file' ? [item.webkitGetAsEntry() ?? item.getAsFile()] : []
  );
  const found: Incoming[] = [];
  for (const entry of entries) {
    if (entry instanceof File) found.push({ path: entry.name, file: entry });
    else if (entry) await walk(entry, found);
  }
  return found;
}

async function walk(entry: FileSystemEntry, found: Incoming[]): Promise<void> {
  const path = entry.fullPath.replace(/^\//, '');
  if (entry.isFile) {
    const file = await new Promise<File | null>((done) =>
      (entry as FileSystemFileEntry).file(done, () => done(null))
    );
    if (file) found.push({ path, file });
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done) => reader.readEntries(done, () => done([])));
    if (some.length === 0) return;
    for (const each of some) await walk(each, found);
  }
}
