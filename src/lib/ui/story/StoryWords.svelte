<script lang="ts">
  import { onDestroy } from 'svelte';
  import { History } from '@lucide/svelte';
  import { type StoryText, mostStoryLetters } from '$core/visit/story';
  import { momentWords } from '../clock';
  import { outbox } from '../net/outbox.svelte';
  import { theVisit } from '../visit/visitStore.svelte';

  interface Props {
    part: StoryText;
    label: string;
    /** What could stand there. */
    example: string;
    /** Lines it has room for. */
    lines: number;
    mayWrite: boolean;
    /** What is known of it before anybody has written. */
    before?: string;
    onearlier: () => void;
  }
  let { part, label, example, lines, mayWrite, before = '', onearlier }: Props = $props();
  const store = theVisit();
  const written = $derived(store.head.story.texts[part]);
  /** What was written here and waits for the server, perhaps since before the page was loaded. */
  const waiting = $derived(
    outbox.waiting.findLast(
      (change) => change.url === store.storyUrl && (change.body as { part: string }).part === part
    )?.body as { body: string } | undefined
  );
  const asWritten = $derived(waiting?.body ?? written?.body ?? before);

  /** What stands in the field while it differs from what the server is known to have. */
  let typed = $state<string | null>(null);
  const pauseMs = 700;
  let due: ReturnType<typeof setTimeout> | null = null;
  let kept: string | null = null;

  function keep() {
    if (due) clearTimeout(due);
    due = null;
    if (typed === null || typed === kept || (kept === null && typed === asWritten)) return;
    const text = (kept = typed);
    void store.writeStory({ part, body: text }, `The story: ${label.toLowerCase()}`).then(() => {
      if (typed === text) typed = null;
    });
  }
  function oninput(event: Event & { currentTarget: HTMLTextAreaElement }) {
    typed = event.currentTarget.value;
    if (due) clearTimeout(due);
    due = setTimeout(keep, pauseMs);
  }
  onDestroy(keep);
</script>

<svelte:window onpagehide={keep} />

<div>
  <label class="flex flex-col gap-1">
    <span class="font-semibold">{label}</span>
    <textarea
      class="border-rule bg-paper rounded-lg border px-3 py-2 leading-snug read-only:border-transparent read-only:bg-transparent read-only:px-0"
      rows={lines}
      maxlength={mostStoryLetters}
      placeholder={mayWrite ? example : 'Nothing written.'}
      readonly={!mayWrite}
      value={typed ?? asWritten}
      {oninput}
      onfocus={() => (kept = null)}
      onblur={keep}
      data-testid="story-{part}"></textarea>
  </label>
  {#if written && written.body !== ''}
    <p class="text-small text-ink-soft flex items-center gap-2" data-testid="story-by-{part}">
      {written.by}, {momentWords(written.at)}
      {#if written.earlier > 0}
        <button
          class="inline-flex min-h-8 items-center gap-1 font-semibold underline"
          onclick={onearlier}
          data-testid="earlier-{part}"
          ><History size={14} aria-hidden="true" />{written.earlier === 1
            ? '1 earlier wording'
            : `${written.earlier} earlier wordings`}</button
        >
      {/if}
    </p>
  {/if}
</div>
