import { untrack } from 'svelte';
import { standingAdvice } from '$core/picture/adviceView';
import type { VisitStore } from '../visit/visitStore.svelte';
import type { Chair } from './chair.svelte';
import { cue } from './cue';

/** Runs when a value becomes another one, with what it was before; never for the first. */
function onChange<T>(value: () => T, act: (now: T, before: T) => void): void {
  let before: { value: T } | null = null;
  $effect(() => {
    const now = value();
    untrack(() => {
      if (before && before.value !== now) act(now, before.value);
      before = { value: now };
    });
  });
}

/** What the page at the chair does by itself as a series goes on: the new take comes in front, and cues tell of it. */
export function followSeries(store: VisitStore, chair: Chair): void {
  onChange(
    () => store.pictures.length,
    (now, before) => {
      if (now <= before) return;
      chair.newTake();
      cue('stored');
    }
  );
  onChange(
    () => chair.device?.lamp ?? '',
    (lamp, before) => {
      if (before !== '' && (lamp === 'ready' || lamp === 'faulted' || lamp === 'absent')) cue(lamp);
    }
  );
  onChange(
    () => (chair.slot === null ? 'nothing' : 'something') + ` left of ${chair.front.trayId}`,
    (now, before) => {
      // Another tray that is brought in front is not one that was just filled.
      if (before === now.replace('nothing', 'something') && chair.tray.route.length > 0) cue('done');
    }
  );
  // The newest take that the computer doubts.
  onChange(
    () => {
      const newest = store.pictures.at(-1);
      return newest && standingAdvice(newest.advice).length > 0 ? newest.pictureId : null;
    },
    (doubted) => {
      if (doubted !== null) cue('doubtful');
    }
  );
}
