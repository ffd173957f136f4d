<script lang="ts">
  import { goto } from '$app/navigation';
  import { Archive, ArchiveRestore, Copy, FileDown, FileUp, Pencil, Plus, Trash2 } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import { type Colleague, likingWords } from '$core/letter/colleague';
  import { readTemplateFile } from '$core/letter/exported';
  import { type LetterBody, emptyLetter } from '$core/letter/letterBody';
  import { shippedTemplates } from '$core/letter/shipped';
  import { again } from '$ui/net/going';
  import { dayWords } from '$ui/clock';
  import Menu from '$ui/kit/Menu.svelte';
  import Switch from '$ui/kit/Switch.svelte';
  import Tooltip from '$ui/kit/Tooltip.svelte';
  import ColleagueForm from '$ui/letter/ColleagueForm.svelte';
  import { ask, attempt, send } from '$ui/net/send';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  const may = $derived(data.who!.may);
  let away = $state(false);
  const shown = $derived(data.templates.filter(({ retired }) => retired === away));

  /** A name that no template has yet: "Referral", then "Referral 2". */
  function freeName(name: string): string {
    const taken = new Set(data.templates.map((each) => each.name.toLowerCase()));
    for (let i = 1; ; i++) {
      const tried = i === 1 ? name : `${name} ${i}`;
      if (!taken.has(tried.toLowerCase())) return tried;
    }
  }
  const make = (name: string, body: LetterBody) =>
    attempt(async () => {
      const made = await ask<{ templateId: string }>('/api/templates', {
        of: null,
        name: freeName(name),
        body
      });
      await goto(`/letters/${made.templateId}`);
    });
  const copy = (templateId: string, name: string) =>
    attempt(async () => {
      const { body } = await send<{ body: LetterBody }>('GET', `/api/templates/${templateId}`);
      await make(name, body);
    });
  async function retire(templateId: string, retired: boolean) {
    await attempt(() => ask(`/api/templates/${templateId}`, { retired }));
    await again('yonder:letters');
  }
  let file = $state<HTMLInputElement>();
  const mostFileBytes = 250_000;
  async function bringIn() {
    const chosen = file?.files?.[0];
    if (file) file.value = '';
    if (!chosen) return;
    try {
      if (chosen.size > mostFileBytes) throw new RangeError('It is larger than any template.');
      const { name, body } = readTemplateFile(await chosen.text());
      await make(name, body);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      toast.error(`“${chosen.name}” was not brought in. ${error.message}`, {
        description: 'Choose a file that was written by “As a file”.',
        duration: 9000
      });
    }
  }

  let editing = $state.raw<Colleague | null>(null);
  let open = $state(false);
  async function dropColleague({ colleagueId }: Colleague) {
    await attempt(() => ask(`/api/colleagues/${colleagueId}`, {}, 'DELETE'));
    await again('yonder:letters');
  }
  const icon = 'flex size-11 items-center justify-center rounded-lg';
</script>

<svelte:head><title>Letters · Yonder Tray</title></svelte:head>
<TopStrip />
<main class="mx-auto grid max-w-6xl items-start gap-4 px-6 pt-4 pb-8 lg:grid-cols-2">
  <section class="panel p-6" aria-labelledby="templates">
    <div class="mb-3 flex flex-wrap items-center gap-2">
      <h1 id="templates" class="text-title flex-1 font-bold">Letters begin with</h1>
      <Switch bind:checked={away} words="Put away" testid="templates-away" />
      {#if may.writeTemplates}
        <Tooltip
          words="Bring a template in from a file"
          button="button px-3"
          testid="template-import"
          onclick={() => file?.click()}><FileUp size={18} aria-hidden="true" /></Tooltip
        >
        <input
          type="file"
          accept="application/json,.json"
          class="hidden"
          bind:this={file}
          onchange={bringIn}
          aria-label="A template’s file"
          data-testid="template-file"
        />
        <Menu
          label="A new template"
          button="button main px-3"
          testid="template-new"
          items={[
            {
              words: 'An empty sheet',
              icon: Plus,
              act: () => void make('New template', emptyLetter),
              testid: 'new-empty'
            },
            ...shippedTemplates.map((each) => ({
              words: each.name,
              icon: Copy,
              act: () => void make(each.name, each.body),
              testid: `new-${each.key}`
            }))
          ]}
        >
          {#snippet trigger()}<Plus size={18} aria-hidden="true" />New{/snippet}
        </Menu>
      {/if}
    </div>
    <ul class="flex flex-col gap-1.5">
      {#each shown as { templateId, name, number, by, at } (templateId)}
        <li class="border-rule flex items-center rounded-lg border pl-4" data-testid="template">
          <span class="min-w-0 flex-1 py-1.5">
            <a
              class="block leading-tight font-semibold break-words underline-offset-4 hover:underline"
              href="/letters/{templateId}">{name}</a
            >
            <span class="text-small text-ink-soft">version {number}, {by}, {dayWords(at)}</span>
          </span>
          <Tooltip
            words="{name} as a file"
            button={icon}
            testid="template-export"
            onclick={() => (location.href = `/api/templates/${templateId}?file=1`)}
            ><FileDown size={18} aria-hidden="true" /></Tooltip
          >
          {#if may.writeTemplates}
            <Tooltip
              words="A copy of {name}"
              button={icon}
              testid="template-copy"
              onclick={() => void copy(templateId, name)}><Copy size={18} aria-hidden="true" /></Tooltip
            >
            <Tooltip
              words={away ? `Bring ${name} back` : `Put ${name} away`}
              button={icon}
              testid="template-retire"
              onclick={() => void retire(templateId, !away)}
              >{#if away}<ArchiveRestore size={18} aria-hidden="true" />{:else}<Archive
                  size={18}
                  aria-hidden="true"
                />{/if}</Tooltip
            >
          {/if}
        </li>
      {:else}
        <li class="text-ink-soft">
          {away
            ? 'None is put away.'
            : `The clinic has none of its own yet. A letter can begin with one of the ${shippedTemplates.length} that are always there.`}
        </li>
      {/each}
    </ul>
    {#if !away}
      <h2 class="heading mt-4 mb-1">Always there</h2>
      <ul class="text-ink-soft flex flex-col gap-0.5">
        {#each shippedTemplates as { key, name } (key)}<li>{name}</li>{/each}
      </ul>
    {/if}
  </section>
  <section class="panel p-6" aria-labelledby="colleagues">
    <div class="mb-3 flex items-center gap-2">
      <h2 id="colleagues" class="text-title flex-1 font-bold">Letters go to</h2>
      {#if may.writeLetters}
        <button
          class="button px-3"
          onclick={() => ([editing, open] = [null, true])}
          data-testid="colleague-new"><Plus size={18} aria-hidden="true" />Somebody new</button
        >
      {/if}
    </div>
    <ul class="flex flex-col gap-1.5">
      {#each data.colleagues as colleague (colleague.colleagueId)}
        <li class="border-rule flex items-center rounded-lg border pl-4" data-testid="colleague">
          <span class="min-w-0 flex-1 py-1.5">
            <span class="block leading-tight font-semibold break-words">{colleague.name}</span>
            <span class="text-small text-ink-soft"
              >{[colleague.practice, likingWords[colleague.likes]].filter(Boolean).join(', ')}</span
            >
          </span>
          {#if may.writeLetters}
            <Tooltip
              words="Change {colleague.name}"
              button={icon}
              onclick={() => ([editing, open] = [colleague, true])}
              ><Pencil size={18} aria-hidden="true" /></Tooltip
            >
            <Tooltip
              words="Take {colleague.name} off the list"
              button={icon}
              onclick={() => void dropColleague(colleague)}><Trash2 size={18} aria-hidden="true" /></Tooltip
            >
          {/if}
        </li>
      {:else}
        <li class="text-ink-soft">
          Nobody yet. Whoever refers patients, or gets them referred, stands here.
        </li>
      {/each}
    </ul>
  </section>
</main>
<ColleagueForm
  bind:open
  colleague={editing}
  destinations={data.destinations}
  onkept={() => void again('yonder:letters')}
/>
