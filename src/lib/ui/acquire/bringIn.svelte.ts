import { toast } from 'svelte-sonner';

export interface Coming {
  key: string;
  name: string;
  slotId: string | null;
  /** 0 to 1 of its bytes are with the server; then it is being opened. */
  sent: number;
  state: 'going' | 'waiting' | 'refused';
  says: string;
  next: string;
}

const againMs = 2000;

/** Files on their way into a visit, one after the other, each offered again until the server has it or refuses it. */
export class BringIn {
  coming = $state<Coming[]>([]);
  private going = false;
  private files = new Map<string, File>();

  constructor(private readonly visitId: string) {}

  add(files: File[], slotId: string | null): void {
    for (const file of files) {
      const key = crypto.randomUUID();
      this.files.set(key, file);
      this.coming.push({ key, name: file.name, slotId, sent: 0, state: 'going', says: '', next: '' });
    }
    void this.go();
  }

  dismiss(key: string): void {
    this.coming = this.coming.filter((each) => each.key !== key);
    this.files.delete(key);
  }

  private async go(): Promise<void> {
    if (this.going) return;
    this.going = true;
    for (;;) {
      const each = this.coming.find((one) => one.state !== 'refused');
      if (!each) break;
      const result = await this.offer(each);
      if (result === 'again') {
        each.state = 'waiting';
        each.says = 'Waits until Yonder Tray answers.';
        await new Promise((done) => setTimeout(done, againMs));
        each.state = 'going';
      } else if (result === 'done') this.dismiss(each.key);
    }
    this.going = false;
  }

  private offer(each: Coming): Promise<'done' | 'again' | 'refused'> {
    const file = this.files.get(each.key)!;
    const query = new URLSearchParams({ key: each.key, name: file.name });
    if (each.slotId) query.set('slot', each.slotId);
    return new Promise((resolve) => {
      const request = new XMLHttpRequest();
      request.open('POST', `/api/visits/${this.visitId}/files?${query}`);
      request.setRequestHeader('content-type', 'application/octet-stream');
      request.upload.onprogress = (event) => (each.sent = event.total > 0 ? event.loaded / event.total : 1);
      request.onerror = () => resolve('again');
      request.onload = () => {
        if (request.status === 200) return resolve('done');
        if (request.status >= 500) return resolve('again');
        const said = wordsOf(request.responseText);
        each.state = 'refused';
        each.says = said.sentence;
        each.next = said.next;
        toast.error(`${each.name}: ${said.sentence}`, { description: said.next, duration: 9000 });
        resolve('refused');
      };
      request.send(file);
    });
  }
}

function wordsOf(text: string): { sentence: string; next: string } {
  try {
    const { sentence, next } = JSON.parse(text) as { sentence?: string; next?: string };
    return { sentence: sentence ?? 'The file was refused.', next: next ?? '' };
  } catch {
    return { sentence: 'The file was refused.', next: 'Try another one.' };
  }
}
