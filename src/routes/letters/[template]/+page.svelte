<script lang="ts">
  import { beforeNavigate } from '$app/navigation';
  import type { Editor } from 'svelte-tiptap';
  import type { LetterBody } from '$core/letter/letterBody';
  import { again } from '$ui/net/going';
  import { momentWords } from '$ui/clock';
  import Menu from '$ui/kit/Menu.svelte';
  import InsertStrip from '$ui/letter/InsertStrip.svelte';
  import KeepRefused from '$ui/letter/KeepRefused.svelte';
  import KeptMark from '$ui/letter/KeptMark.svelte';
  import { Keeping, keepAs } from '$ui/letter/keeping.svelte';
  import { LetterDesk } from '$ui/letter/letterDesk.svelte';
  import LetterSheet from '$ui/letter/LetterSheet.svelte';
  import SheetTitle from '$ui/letter/SheetTitle.svelte';
  import PlaceCard from '$ui/letter/PlaceCard.svelte';
  import { ask, attempt, send } from '$ui/net/send';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  // svelte-ignore state_referenced_locally
  const { template } = data;
  const may = $derived(data.who!.may.writeTemplates);
  let name = $state(template.name);
  // svelte-ignore state_referenced_locally
  const desk = new LetterDesk(template.body, () => data.who!.notation, may);
  let editor = $state.raw<Editor | null>(null);

  interface Wish {
    name: string;
    body: LetterBody;
  }
  let seq = template.seq;
  const keeping = new Keeping<Wish>(async (wish, key) => {
    const of = { templateId: template.templateId, seq };
    const kept = await keepAs<{ seq: number; number: number }>('/api/templates', { of, ...wish }, key);
    seq = kept.seq;
    if (kept.number !== versions[0]?.number) await again('yonder:template');
  });
  const versions = $derived(data.template.versions);
  const put = () => keeping.put({ name: name.trim() || template.name, body: desk.body });
  beforeNavigate(() => void keeping.flush());

  async function keepAsOwn() {
    await attempt(async () => {
      const made = await ask<{ templateId: string }>('/api/templates', {
        of: null,
        name: `${name.trim()}, ${data.who!.name}`.slice(0, 120),
        body: desk.body
      });
      keeping.giveUp();
      location.href = `/letters/${made.templateId}`;
    });
  }
  const goBack = (number: number) =>
    attempt(async () => {
      const { body } = await send<{ body: LetterBody }>(
        'GET',
        `/api/templates/${template.templateId}?version=${number}`
      );
      editor?.commands.setContent(body, { emitUpdate: true });
    });
</script>

<svelte:head><title>{name} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="grid min-h-0 flex-1 grid-cols-[1fr_20rem] gap-4 px-4 pb-4">
    <LetterSheet {desk} label="The template {name}" onchange={put} onready={(ready) => (editor = ready)} />
    <aside class="panel flex min-h-0 flex-col gap-4 overflow-y-auto p-5" aria-label="The template">
      <SheetTitle
        bind:name
        label="Name of the template"
        back={{ href: '/letters', words: 'All templates' }}
        readonly={!may}
        testid="template-name"
        oninput={put}
      />
      <KeepRefused {keeping} onkeepown={keepAsOwn} />
      {#if may}
        {#if desk.place}
          <PlaceCard {desk} categories={data.categories} patientId={null} />
          <hr class="border-rule" />
        {/if}
        <InsertStrip ready={editor !== null} {desk} />
      {/if}
      <div class="mt-auto flex items-center justify-between gap-2">
        <KeptMark state={keeping.state} />
        <Menu
          label="Versions"
          button="button px-3"
          testid="template-versions"
          items={versions.map(({ number, by, at }) => ({
            words: `Version ${number}, ${by}, ${momentWords(at)}`,
            act: () => void goBack(number),
            testid: `version-${number}`
          }))}
        >
          {#snippet trigger()}Version {versions[0].number}{/snippet}
        </Menu>
      </div>
    </aside>
  </main>
</div>
