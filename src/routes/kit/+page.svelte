<script lang="ts">
  import { language } from '$ui/writing';
  import { Anchor, Hand, Moon, Ruler, SunMedium } from '@lucide/svelte';
  import Choice from '$ui/kit/Choice.svelte';
  import Combobox from '$ui/kit/Combobox.svelte';
  import DateField from '$ui/kit/DateField.svelte';
  import Dialog from '$ui/kit/Dialog.svelte';
  import Menu from '$ui/kit/Menu.svelte';
  import Popover from '$ui/kit/Popover.svelte';
  import Select from '$ui/kit/Select.svelte';
  import Slider from '$ui/kit/Slider.svelte';
  import Switch from '$ui/kit/Switch.svelte';
  import Tabs from '$ui/kit/Tabs.svelte';
  import Tick from '$ui/kit/Tick.svelte';
  import Tooltip from '$ui/kit/Tooltip.svelte';

  const sizes = [
    { value: 'ball', words: 'Steel ball', detail: '10 mm' },
    { value: 'ruler', words: 'Ruler in the picture', detail: '100 mm' },
    { value: 'pin', words: 'Pin', detail: '2 mm' }
  ];
  let size = $state('ball');
  let tool = $state('window');
  let tab = $state('first');
  let frame = $state(7);
  let on = $state(true);
  let ticked = $state(true);
  let day = $state('2026-10-07');
  let open = $state(false);
  let typed = $state('');
  let found = $state('');
  let told = $state('');
</script>

<svelte:head><title>Kit · Yonder Tray</title></svelte:head>
<main class="mx-auto grid max-w-5xl grid-cols-2 gap-4 p-6">
  <h1 class="text-title col-span-2 font-bold">The kit</h1>
  <section class="panel flex flex-col gap-3 p-5" aria-labelledby="buttons">
    <h2 id="buttons" class="heading">Buttons</h2>
    <div class="flex flex-wrap gap-2">
      <button class="button main">Confirm</button>
      <button class="button">Retake</button>
      <button class="button quiet">Quiet</button>
      <button class="button" disabled>Not now</button>
      <Tooltip words="Anchor here" key="A" button="button px-3"
        ><Anchor size={20} aria-hidden="true" /></Tooltip
      >
    </div>
    <h2 class="heading">One of several</h2>
    <Choice
      label="Tool"
      bind:value={tool}
      options={[
        { value: 'window', words: 'Window', icon: SunMedium, key: 'W' },
        { value: 'move', words: 'Move', icon: Hand, key: 'P' },
        { value: 'length', words: 'Length', icon: Ruler, key: 'L' }
      ]}
    />
    <Choice
      label="Tool, stacked"
      stacked
      bind:value={tool}
      options={[
        { value: 'window', words: 'Window', icon: SunMedium },
        { value: 'move', words: 'Move', icon: Hand },
        { value: 'length', words: 'Length', icon: Ruler }
      ]}
    />
  </section>
  <section class="panel flex flex-col gap-3 p-5" aria-labelledby="lists">
    <h2 id="lists" class="heading">Lists</h2>
    <Select label="Known size" bind:value={size} options={sizes} testid="kit-select" />
    <Combobox
      label="Name or number"
      options={sizes.filter((each) => each.words.toLowerCase().includes(typed.toLowerCase()))}
      bind:typed
      onchoose={(value) => (found = value)}
      testid="kit-combobox"
    />
    <p class="text-small text-ink-soft" data-testid="kit-found">found: {found || 'nothing yet'}</p>
    <div class="flex gap-2">
      <Menu
        label="Menu"
        testid="kit-menu"
        items={[
          { words: 'Dim room', icon: Moon, act: () => (told = 'dim room') },
          { words: 'Not now', disabled: true, act: () => {} }
        ]}>{#snippet trigger()}Menu{/snippet}</Menu
      >
      <Popover label="Popover" testid="kit-popover">
        {#snippet trigger()}Popover{/snippet}
        <p class="w-64">What there is no room for on the page itself.</p>
      </Popover>
      <button class="button" onclick={() => (open = true)} data-testid="kit-dialog">Dialog</button>
    </div>
    <p class="text-small text-ink-soft" data-testid="kit-told">chosen: {told || 'nothing yet'}</p>
  </section>
  <section class="panel flex flex-col gap-3 p-5" aria-labelledby="values">
    <h2 id="values" class="heading">Values</h2>
    <Slider label="Frame" bind:value={frame} least={0} most={31} />
    <p class="text-small text-ink-soft" data-testid="kit-frame">frame {frame + 1} of 32</p>
    <Switch words="Tones" bind:checked={on} testid="kit-switch" />
    <div class="flex items-center">
      <Tick checked={ticked} label="Choose the picture" onchange={(is) => (ticked = is)} testid="kit-tick" />
      {ticked ? 'chosen' : 'not chosen'}
    </div>
    <DateField
      language={language()}
      value={day}
      label="Day"
      testid="kit-date"
      onchange={(is) => (day = is)}
    />
    <p class="text-small text-ink-soft" data-testid="kit-day">{day}</p>
  </section>
  <section class="panel flex flex-col p-5" aria-labelledby="tabs">
    <h2 id="tabs" class="heading">Tabs</h2>
    <Tabs
      label="Trays"
      bind:value={tab}
      tabs={[
        { value: 'first', words: 'Four bitewings', detail: '4' },
        { value: 'second', words: 'Full mouth', detail: '18' }
      ]}
    >
      {#snippet children(is)}<p class="py-4">
          {is === 'first' ? 'What the first holds.' : 'What the second holds.'}
        </p>{/snippet}
    </Tabs>
  </section>
</main>

<Dialog bind:open title="A question" message="What it is about, in a sentence.">
  <p>Escape closes it, and so does a press beside it.</p>
  <button class="button main mt-3" onclick={() => (open = false)}>Understood</button>
</Dialog>
