<script lang="ts">
  import { Search } from '@lucide/svelte';
  import type { BodyMap } from '$core/anatomy/placeKind';
  import type { Notation } from '$core/anatomy/teeth';
  import type { ProposedSlot } from '$core/tray/propose';
  import type { Tray } from '$core/tray/tray';
  import Dialog from '../kit/Dialog.svelte';
  import Tabs from '../kit/Tabs.svelte';
  import { countWords } from '../words';
  import ForThisOnce from './ForThisOnce.svelte';
  import MiniTray from './MiniTray.svelte';
  import { type PatternChoice, foundChoices } from './patternChoice';
  import TrayOrder from './TrayOrder.svelte';

  interface Props {
    open: boolean;
    choices: readonly PatternChoice[];
    maps: readonly BodyMap[];
    notation: Notation;
    child: boolean;
    /** Takes are there already: a pattern makes another tray. */
    another: boolean;
    /** The one in front. */
    tray: Tray;
    trayId: string;
    onlayonce: (slots: ProposedSlot[]) => void;
    onlay: (choice: PatternChoice) => void;
    onadd: (slots: ProposedSlot[]) => void;
    onorder: (order: string[]) => void;
    ondrop: (slotId: string) => void;
  }
  let {
    open = $bindable(),
    choices,
    maps,
    notation,
    child,
    another,
    tray,
    trayId,
    onlay,
    onlayonce,
    onadd,
    onorder,
    ondrop
  }: Props = $props();
  let typed = $state('');
  let tab = $state('patterns');
  const laid = $derived(tray.laid?.pattern.id ?? null);
  const addable = $derived(tray.route.length > 0);
  const routes = $derived(choices.find(({ pattern }) => pattern.id === laid)?.routes ?? []);
  const found = $derived(foundChoices(choices, typed));
  const groups = $derived(
    [
      {
        words: 'For this visit',
        of: found.filter(({ likelihood }) => ['fitting', 'near'].includes(likelihood))
      },
      { words: 'All others', of: found.filter(({ likelihood }) => likelihood === 'other') },
      { words: 'For other species', of: found.filter(({ likelihood }) => likelihood === 'foreign') }
    ].filter(({ of }) => of.length > 0)
  );
</script>

<Dialog
  bind:open
  wide
  title="What to take"
  message={another ? 'Takes are there already: a pattern is laid as another tray of this visit.' : undefined}
>
  <Tabs
    bind:value={tab}
    label="Ways to say what to take"
    tabs={[
      { value: 'patterns', words: 'A pattern' },
      { value: 'once', words: 'For this once' },
      ...(addable ? [{ value: 'order', words: 'Order of this tray' }] : [])
    ]}
  >
    {#snippet children(shown)}
      {#if shown === 'patterns'}
        <label
          class="border-rule bg-paper focus-within:border-coral my-3 flex min-h-11 items-center gap-2 rounded-lg border px-3"
        >
          <Search size={18} class="text-ink-soft" aria-hidden="true" />
          <input
            bind:value={typed}
            class="min-w-0 flex-1 outline-none"
            placeholder="bitewings, left wrist, hips"
            aria-label="Find a pattern"
            data-testid="find-pattern"
            onkeydown={(event) => {
              if (event.key !== 'Enter' || found.length === 0) return;
              // The button to which the focus goes back must not hear it too.
              event.preventDefault();
              onlay(found[0]);
            }}
          />
        </label>
        {#each groups as { words, of } (words)}
          <h3 class="heading mt-2 mb-1.5">{words}</h3>
          <ul class="grid grid-cols-2 gap-1.5">
            {#each of as choice (choice.pattern.id)}
              <li>
                <button
                  class="button w-full justify-start gap-3 px-2 py-1.5 text-left"
                  disabled={!another && choice.pattern.id === laid}
                  onclick={() => onlay(choice)}
                  data-testid="pattern-choice"
                >
                  <MiniTray wells={choice.wells} />
                  <span class="min-w-0">
                    <span class="block leading-tight">{choice.name}</span>
                    <span class="text-small text-ink-soft font-normal"
                      >{countWords(choice.wells.length, 'slot', 'slots')}</span
                    >
                  </span>
                </button>
              </li>
            {/each}
          </ul>
        {:else}
          <p class="text-ink-soft py-6 text-center">
            No pattern is called so. Say what is wanted <em>for this once</em>, or lay a pattern of your own.
          </p>
        {/each}
        <div class="mt-4 flex gap-2">
          <a class="button" href="/patterns">Lay or change a pattern</a>
          {#if addable}<a class="button" href="/patterns/new?tray={trayId}">Make a pattern of this tray</a
            >{/if}
        </div>
      {:else if shown === 'order'}
        <TrayOrder {tray} {routes} {notation} {onorder} {ondrop} />
      {:else}
        <ForThisOnce {maps} {notation} {child} {addable} onlay={onlayonce} {onadd} />
      {/if}
    {/snippet}
  </Tabs>
</Dialog>
