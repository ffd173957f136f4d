import { toast } from 'svelte-sonner';
import { outbox } from '../net/outbox.svelte';

export const filesLane = (visitId: string): string => `files ${visitId}`;

/** Puts files on their way into a visit; they wait on this machine until the server has them or refuses them in words. */
export function bringIn(
  files: readonly File[],
  visitId: string,
  trayId: string,
  slotId: string | null
): void {
  for (const file of files) {
    const query = new URLSearchParams({ name: file.name, tray: trayId });
    if (slotId) query.set('slot', slotId);
    const url = `/api/visits/${visitId}/files?${query}`;
    void outbox
      .put({ url, body: null, file, lane: filesLane(visitId), words: file.name })
      .then((answer) => tellRemarks(file.name, answer));
  }
}

/** What the person should hear at once of a file that came in: another name in it, that it was here before. */
export function tellRemarks(name: string, answer: Record<string, unknown> | null): void {
  const remarks = (answer?.remarks ?? []) as string[];
  for (const remark of remarks) toast.warning(remark, { description: name, duration: 12_000 });
}
