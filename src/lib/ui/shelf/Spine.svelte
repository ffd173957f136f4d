<script lang="ts">
  import { type CaseSpine, caseNumber } from '$core/shelf/teachingCase';

  interface Props {
    spine: CaseSpine;
    /** Titles tell what was found: whoever looks first sees the number alone. */
    quiz: boolean;
    href: string;
  }
  let { spine, quiz, href }: Props = $props();
  /** Cloths that books are bound in, by their number. */
  const cloths = ['bg-lagoon-wash', 'bg-brass-wash', 'bg-tray', 'bg-coral-wash'];
</script>

<a
  {href}
  class="border-rule hover:border-ink flex h-60 w-16 flex-col items-center gap-3 rounded-t-md rounded-b-sm border pt-3 pb-2 transition-transform hover:-translate-y-1 {cloths[
    (spine.number - 1) % cloths.length
  ]}"
  aria-label="Case {spine.number}{quiz ? '' : `: ${spine.words.title}`}{spine.state === 'ready'
    ? ''
    : `, ${spine.state}`}"
  data-testid="spine"
>
  <span class="border-ink/25 w-full border-y py-1 text-center font-bold" aria-hidden="true"
    >{caseNumber(spine.number)}</span
  >
  <span
    class="text-small min-h-0 flex-1 overflow-hidden font-semibold text-ellipsis [text-orientation:mixed] [writing-mode:vertical-rl]"
    aria-hidden="true">{quiz ? '' : spine.words.title}</span
  >
  <span
    class="text-small {spine.state === 'stopped' ? 'text-brass font-bold' : 'text-ink-soft'}"
    aria-hidden="true"
    >{spine.state === 'ready' ? spine.pictures : spine.state === 'stopped' ? 'stop' : '…'}</span
  >
</a>
