<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import {
    ChevronLeft,
    ChevronRight,
    Eye,
    EyeOff,
    LibraryBig,
    PackageCheck,
    Pencil,
    RotateCw,
    Trash2,
    TriangleAlert
  } from '@lucide/svelte';
  import { caseNumber, quizTitle } from '$core/shelf/teachingCase';
  import { again } from '$ui/net/going';
  import Dialog from '$ui/kit/Dialog.svelte';
  import TextField from '$ui/kit/TextField.svelte';
  import Tooltip from '$ui/kit/Tooltip.svelte';
  import { onNews } from '$ui/net/news';
  import { ask, attempt } from '$ui/net/send';
  import CaseStage from '$ui/shelf/CaseStage.svelte';
  import ChangeCase from '$ui/shelf/ChangeCase.svelte';
  import { describeKeys, isForOthers } from '$ui/shell/keys.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  const opened = $derived(data.opened);
  const may = $derived(data.who!.may.send);
  const entries = $derived(opened.entries.filter(({ dropped }) => !dropped));
  let entryId = $state('');
  const at = $derived(
    Math.max(
      0,
      entries.findIndex((each) => each.entryId === entryId)
    )
  );
  const entry = $derived(entries.at(at));
  /** The case of which somebody has asked what was found. */
  let asked = $state('');
  const shown = $derived(asked === opened.caseId);
  /** A title may tell the answer. */
  const hidden = $derived(data.quiz && !shown);
  let stage = $state<CaseStage>();
  /** Which of the pictures something is drawn on, counted from 1. */
  const drawnOn = $derived(entries.flatMap(({ drawn }, i) => (drawn.length > 0 ? [i + 1] : [])));

  $effect(() =>
    onNews((heard) => {
      if (gone) return;
      if ((heard.topic === 'shelf' && heard.caseId === opened.caseId) || heard.topic === 'all')
        void again('yonder:shelf');
    })
  );
  $effect(() =>
    describeKeys([
      { key: '↑ ↓', does: 'picture before, picture after' },
      { key: '← →', does: 'frame before, frame after' },
      { key: 'F', does: 'show or hide what was found' },
      { key: 'N', does: 'next case' },
      { key: '+ − 0', does: 'nearer, farther, all of it' }
    ])
  );
  const go = (caseId: string | null) => {
    if (caseId) void goto(`/shelf/${caseId}${page.url.search}`, { keepFocus: true });
  };
  const toggle = () => (asked = shown ? '' : opened.caseId);
  function onkeydown(event: KeyboardEvent) {
    if (isForOthers(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const act: Record<string, () => void> = {
      f: toggle,
      n: () => go(data.after),
      '+': () => stage?.zoomBy(1.4),
      '-': () => stage?.zoomBy(1 / 1.4),
      '0': () => stage?.whole(),
      arrowup: () => (entryId = entries[Math.max(0, at - 1)]?.entryId ?? ''),
      arrowdown: () => (entryId = entries[Math.min(entries.length - 1, at + 1)]?.entryId ?? ''),
      arrowleft: () => stage?.step(-1),
      arrowright: () => stage?.step(1)
    };
    const wanted = act[event.key.toLowerCase()];
    if (!wanted || (event.target as Element).closest('[role=slider]')) return;
    event.preventDefault();
    wanted();
  }

  let editing = $state(false);
  let dropping = $state(false);
  /** It is being taken off: news of it is news of something that is here no more. */
  let gone = false;
  let why = $state('');
  const act = (wish: Record<string, unknown>) =>
    attempt(async () => {
      await ask(`/api/cases/${opened.caseId}`, wish);
      await again('yonder:shelf');
    });
  const drop = () =>
    attempt(async () => {
      gone = true;
      try {
        await ask(`/api/cases/${opened.caseId}`, {}, 'DELETE');
        await goto('/shelf');
      } finally {
        gone = false;
      }
    });
  const ready = $derived(opened.entries.filter((each) => each.ready).length);
</script>

<svelte:window {onkeydown} />
<svelte:head><title>Case {opened.number} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="grid min-h-0 flex-1 grid-cols-[1fr_24rem] px-4 pb-4">
    <section
      class="panel flex min-h-0 min-w-0 flex-col gap-2 rounded-r-none border-r-0 p-3"
      aria-label="Pictures of the case"
    >
      {#if opened.state === 'ready' && entry}
        <CaseStage bind:this={stage} caseId={opened.caseId} {entry} drawn={shown} />
        {#if entries.length > 1}
          <ul class="flex shrink-0 gap-2 overflow-x-auto">
            {#each entries as each, i (each.entryId)}
              <li>
                <button
                  class="flex w-28 flex-col rounded-md border-2 p-1 text-left {i === at
                    ? 'border-coral'
                    : 'border-transparent'}"
                  aria-current={i === at}
                  onclick={() => (entryId = each.entryId)}
                  data-testid="case-entry"
                >
                  <img
                    src="/api/cases/{opened.caseId}/files/{each.plain[0]}"
                    alt=""
                    class="bg-stage h-16 w-full rounded object-contain"
                  />
                  <span class="text-small truncate">{i + 1} {each.title}</span>
                </button>
              </li>
            {/each}
          </ul>
        {/if}
      {:else}
        <div class="m-auto max-w-md text-center" role="status" data-testid="case-state">
          {#if opened.state === 'packing'}
            <p class="text-lead font-bold">Packed and looked through: {ready} of {opened.entries.length}</p>
            <p class="text-ink-soft">Its pictures are shown once all of them are through.</p>
          {:else if opened.state === 'stopped'}
            <p class="text-lead text-brass flex items-center justify-center gap-2 font-bold">
              <TriangleAlert size={22} aria-hidden="true" />Stopped
            </p>
            <p class="mt-1">{opened.why}</p>
            {#each opened.found as { what, words: found }, i (i)}
              <p class="text-small mt-1"><strong>{what}</strong>: {found}</p>
            {/each}
            {#if may}
              <div class="mt-4 flex flex-col gap-3">
                <button
                  class="button main self-center"
                  onclick={() => void act({ act: 'again' })}
                  data-testid="case-again"
                  ><RotateCw size={18} aria-hidden="true" />Look through it again</button
                >
                <div class="flex items-end gap-2 text-left">
                  <div class="flex-1">
                    <TextField label="Why it is no name" bind:value={why} most={300} />
                  </div>
                  <button
                    class="button"
                    disabled={why.trim().length < 3}
                    onclick={() => void act({ act: 'let stand', why })}>Let it stand</button
                  >
                </div>
              </div>
            {/if}
          {:else}<p class="text-ink-soft">All of its pictures are left out.</p>{/if}
        </div>
      {/if}
    </section>
    <section
      class="panel flex min-h-0 flex-col gap-4 overflow-y-auto rounded-l-none p-5"
      aria-labelledby="case-head"
    >
      <div class="flex items-center gap-1">
        <a class="button quiet px-2" href="/shelf{page.url.search}"
          ><LibraryBig size={18} aria-hidden="true" />Shelf</a
        >
        <span class="ml-auto flex">
          <Tooltip
            words="Case before"
            button="button quiet px-2"
            disabled={!data.before}
            onclick={() => go(data.before)}><ChevronLeft size={20} aria-hidden="true" /></Tooltip
          >
          <Tooltip
            words="Next case"
            key="N"
            button="button quiet px-2"
            disabled={!data.after}
            onclick={() => go(data.after)}><ChevronRight size={20} aria-hidden="true" /></Tooltip
          >
        </span>
      </div>
      <div>
        <span class="heading">Case {caseNumber(opened.number)}</span>
        <h1 id="case-head" class="text-title mt-1 font-bold" data-testid="case-heading">
          {hidden ? quizTitle : opened.words.title}
        </h1>
        {#if opened.words.ageBand !== 'not said'}<p class="text-ink-soft">Age {opened.words.ageBand}</p>{/if}
      </div>
      {#if opened.words.description}<p class="whitespace-pre-line">{opened.words.description}</p>{/if}
      {#if !hidden && opened.words.keyWords.length > 0}
        <ul class="flex flex-wrap gap-1.5" aria-label="Key words">
          {#each opened.words.keyWords as word (word)}<li
              class="border-rule text-small rounded-full border px-2.5 py-0.5"
            >
              {word}
            </li>{/each}
        </ul>
      {/if}
      <button
        class="button self-start {shown ? '' : 'main'}"
        aria-expanded={shown}
        onclick={toggle}
        disabled={opened.state !== 'ready'}
        data-testid="show-found"
        >{#if shown}<EyeOff size={18} aria-hidden="true" />Hide what was found{:else}<Eye
            size={18}
            aria-hidden="true"
          />Show what was found{/if}</button
      >
      {#if shown}
        <div class="border-lagoon flex flex-col gap-2 border-l-4 pl-4" data-testid="case-found">
          {#if opened.words.findings}<p class="whitespace-pre-line">{opened.words.findings}</p>{/if}
          {#if opened.words.diagnosis}
            <p>
              <strong>{opened.words.diagnosis.words || 'Diagnosis'}</strong><br /><span
                class="text-small text-ink-soft"
                >{opened.words.diagnosis.system} {opened.words.diagnosis.code}</span
              >
            </p>
          {/if}
          {#if drawnOn.length > 0}
            <p class="text-small text-ink-soft">
              {entries.length === 1
                ? 'What was drawn is seen on the picture now.'
                : `What was drawn is seen on ${drawnOn.length === 1 ? 'picture' : 'pictures'} ${drawnOn.join(', ')} now.`}
            </p>
          {/if}
          {#if !opened.words.findings && !opened.words.diagnosis}<p class="text-ink-soft">
              Nothing is written.
            </p>{/if}
        </div>
      {/if}
      <div class="border-rule mt-auto flex flex-wrap gap-1.5 border-t pt-3">
        {#if may}
          <button class="button px-2.5" onclick={() => (editing = true)} data-testid="edit-case"
            ><Pencil size={17} aria-hidden="true" />Change</button
          >
          {#if opened.state === 'ready'}
            <a
              class="button px-2.5"
              href="/api/cases/{opened.caseId}/package"
              download
              data-testid="case-package"><PackageCheck size={17} aria-hidden="true" />Package</a
            >
          {/if}
          <button class="button text-coral px-2.5" onclick={() => (dropping = true)} data-testid="drop-case"
            ><Trash2 size={17} aria-hidden="true" />Take off</button
          >
        {/if}
        <p class="text-small text-ink-soft w-full">
          Shown as in the chart, by the rule “{opened.rule}”. Made by {opened.by}.{opened.letGo
            ? ` What was found in it was let stand by ${opened.letGo}.`
            : ''}
        </p>
      </div>
    </section>
  </main>
</div>

<ChangeCase bind:open={editing} {opened} onkept={() => void again('yonder:shelf')} />
<Dialog
  bind:open={dropping}
  title="Take case {opened.number} off the shelf?"
  message="Its number is not given again. The pictures it was made of stay in their charts."
>
  <button class="button main" onclick={() => void drop()} data-testid="drop-case-go">Take it off</button>
</Dialog>
