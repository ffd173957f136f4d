<script lang="ts">
  import { language } from '../writing';
  import { type Claim, type ClaimKind, claimKinds } from '$core/parcel/claim';
  import { type PictureView, pictureName } from '$core/picture/pictureView';
  import Choice from '../kit/Choice.svelte';
  import DateField from '../kit/DateField.svelte';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import Small from '../pictures/Small.svelte';

  interface Props {
    /** What is told of a picture, and who hears it where that is changed. */
    desk: {
      claimOf: (picture: PictureView) => Claim;
      tell: (picture: PictureView, part: Partial<Claim>) => void;
    };
    pictures: readonly PictureView[];
    headed?: boolean;
  }
  let { desk, pictures, headed = true }: Props = $props();
  const kinds = (Object.keys(claimKinds) as ClaimKind[]).map((value) => ({
    value,
    words: claimKinds[value]
  }));
</script>

<div>
  {#if headed}<span class="heading mb-1 block">What the claims office is told</span>{/if}
  <ul class="flex flex-col gap-3">
    {#each pictures as picture (picture.pictureId)}
      {@const claim = desk.claimOf(picture)}
      {@const name = pictureName(picture)}
      <li class="border-rule flex flex-col gap-2 border-t pt-3 first:border-0 first:pt-0" data-testid="claim">
        <div class="flex gap-3">
          <span class="relative block h-24 w-32 shrink-0">
            <Small {picture} alt={name} frame="h-24 w-32 rounded-md" />
            <span
              class="text-small absolute bottom-1 rounded bg-black/75 px-1.5 font-bold text-white {claim.leftIsAt ===
              'left'
                ? 'left-1'
                : 'right-1'}"
              aria-hidden="true">L</span
            >
          </span>
          <div class="flex min-w-0 flex-1 flex-col gap-1.5">
            <span class="truncate font-semibold">{name}</span>
            <Select
              label="Kind of {name}"
              value={claim.kind}
              options={kinds}
              onchange={(kind) => desk.tell(picture, { kind })}
              testid="claim-kind"
            />
          </div>
        </div>
        <div class="flex flex-wrap items-end gap-3">
          <div>
            <span class="text-small mb-1 block font-semibold">Taken on</span>
            <DateField
              language={language()}
              value={claim.taken}
              label="Taken on"
              onchange={(taken) => desk.tell(picture, { taken })}
              testid="claim-taken"
            />
          </div>
          <div>
            <span class="text-small mb-1 block font-semibold">Patient’s left is on the</span>
            <Choice
              label="Patient’s left is on the"
              value={claim.leftIsAt}
              options={[
                { value: 'left', words: 'Left' },
                { value: 'right', words: 'Right' }
              ]}
              onchange={(leftIsAt) => desk.tell(picture, { leftIsAt })}
              testid="claim-left"
            />
          </div>
        </div>
        <TextField
          label="Remark"
          bind:value={() => claim.remark, (remark) => desk.tell(picture, { remark })}
          most={400}
          testid="claim-remark"
        />
      </li>
    {/each}
  </ul>
</div>
