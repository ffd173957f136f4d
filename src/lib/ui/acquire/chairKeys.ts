import { type Pedal, pedalActWords, pedalActs } from '$core/visit/pedal';
import type { ScreenKey } from '../shell/keys.svelte';

/** What the keys do at the chair, those of the room's pedal too. */
export const chairKeys = (pedal: Pedal): ScreenKey[] => [
  { key: 'Space', does: 'Get the device ready (Enter and the pedal, too)' },
  { key: 'P', does: 'What to take' },
  { key: 'N', does: 'Pass this slot over: on to the next empty one' },
  { key: 'A', does: 'Anchor this slot, or lift the anchor' },
  { key: 'R', does: 'Take the shown picture again' },
  { key: 'K', does: 'Keep the shown take' },
  { key: 'C', does: 'Open the camera, or close it; Space takes a still' },
  { key: 'Delete', does: 'Drop the shown still' },
  { key: 'B', does: 'Lay the shown take on the bench' },
  { key: 'G', does: 'Move the shown take to another slot, or let two change places' },
  { key: 'T', does: 'Turn the shown picture to the right' },
  { key: 'M', does: 'Mirror it' },
  { key: '← →', does: 'Look at the take before, or after' },
  { key: 'V', does: 'Show the series to the patient' },
  { key: 'Ctrl Z', does: 'Take back what was done last' },
  { key: 'Ctrl Shift Z', does: 'Bring it back' },
  ...pedalActs.flatMap((act) =>
    pedal[act] ? [{ key: pedal[act], does: `Pedal: ${pedalActWords[act]}` }] : []
  )
];
