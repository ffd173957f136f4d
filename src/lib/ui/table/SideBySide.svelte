<script lang="ts">
  import { goto } from '$app/navigation';
  import {
    Check,
    ChevronDown,
    Columns2,
    Grid2x2,
    Grid3x2,
    History,
    LayoutDashboard,
    LayoutGrid,
    Link2,
    Square,
    SunMedium,
    Columns3
  } from '@lucide/svelte';
  import type { Component } from 'svelte';
  import Menu from '../kit/Menu.svelte';
  import type { Count } from './places.svelte';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const { places } = $derived(table);
  const layouts: { count: Count; words: string; icon: Component<{ size?: number }> }[] = [
    { count: 1, words: 'One picture', icon: Square },
    { count: 2, words: 'Two side by side', icon: Columns2 },
    { count: 3, words: 'Three', icon: Columns3 },
    { count: 4, words: 'Four', icon: Grid2x2 },
    { count: 6, words: 'Six', icon: Grid3x2 }
  ];
  const Present = $derived(
    places.tray ? LayoutDashboard : layouts.find(({ count }) => count === places.count)!.icon
  );
  const items = $derived([
    ...layouts.map(({ count, words, icon }) => ({
      words,
      icon: places.count === count && !places.tray ? Check : icon,
      testid: `side-${count}`,
      act: () => places.lay(count)
    })),
    ...(places.mayLieAsOnTray
      ? [
          {
            words: 'As on the tray',
            icon: places.tray ? Check : LayoutDashboard,
            testid: 'side-tray',
            act: () => places.layAsOnTray()
          }
        ]
      : []),
    ...(places.several && !places.tray
      ? [
          {
            words: places.linked ? 'Zoom each alone' : 'Zoom them as one',
            icon: Link2,
            testid: 'link-zoom',
            act: () => (places.linked = !places.linked)
          },
          {
            words: places.windowsLinked ? 'Window each alone' : 'Window them as one',
            icon: SunMedium,
            testid: 'link-window',
            act: () => (places.windowsLinked = !places.windowsLinked)
          }
        ]
      : []),
    {
      words: 'Overview of all there is',
      icon: LayoutGrid,
      testid: 'to-overview',
      act: () => void goto(`/patients/${table.picture!.patientId}/overview`)
    },
    { words: 'Then and now', icon: History, key: 'K', testid: 'then-now', act: () => table.showThen() }
  ]);
</script>

<Menu
  label="Side by side (J)"
  button="button w-full shrink-0 px-1.5"
  testid="side-by-side"
  align="start"
  {items}
>
  {#snippet trigger()}<Present size={19} /><span class="text-small whitespace-nowrap"
      >{places.tray ? 'Tray' : places.count === 1 ? 'One' : places.count}</span
    ><ChevronDown size={14} aria-hidden="true" />{/snippet}
</Menu>
