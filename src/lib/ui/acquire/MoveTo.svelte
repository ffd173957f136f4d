<script lang="ts">
  import type { PictureView } from '$core/picture/pictureView';
  import { pictureName } from '$core/picture/pictureView';
  import { type Tray, wellsAlong } from '$core/tray/tray';
  import Combobox from '../kit/Combobox.svelte';
  import Dialog from '../kit/Dialog.svelte';

  interface Props {
    open: boolean;
    picture: PictureView | null;
    tray: Tray;
    onmove: (slotId: string | null) => void;
  }
  let { open = $bindable(), picture, tray, onmove }: Props = $props();
  let typed = $state('');
  const bench = 'bench';
  const targets = $derived([
    ...wellsAlong(tray)
      .filter(({ takes }) => !picture || !takes.includes(picture.pictureId))
      .map(({ slot, takes }) => ({
        value: slot.id,
        words: slot.name,
        detail:
          takes.length === 0 ? 'empty' : takes.length === 1 ? 'the two change places' : 'joins its takes'
      })),
    ...(picture?.slot ? [{ value: bench, words: 'The bench', detail: '' }] : [])
  ]);
  const fitting = $derived(
    targets.filter(({ words }) => words.toLowerCase().includes(typed.trim().toLowerCase()))
  );
</script>

<Dialog bind:open title="Move to" message={picture ? pictureName(picture) : ''}>
  <div class="p-1 pb-2">
    <Combobox
      label="Slot"
      options={fitting}
      bind:typed
      nothing="No slot is called so."
      testid="move-to"
      autofocus
      onchoose={(value) => {
        typed = '';
        open = false;
        onmove(value === bench ? null : value);
      }}
    />
  </div>
</Dialog>
