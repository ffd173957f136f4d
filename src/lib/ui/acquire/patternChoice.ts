import type { Likelihood } from '$core/tray/likely';
import type { Ref } from '$core/tray/pattern';
import type { SlotShape } from '$core/tray/slot';

/** A pattern that can be laid, and how likely it is what the visit wants. */
export interface PatternChoice {
  pattern: Ref;
  route: Ref;
  name: string;
  wells: { x: number; y: number; shape: SlotShape }[];
  /** The ways through it that are known: everybody's, and one's own where there is one. */
  routes: { whose: 'usual' | 'mine'; order: readonly string[] }[];
  likelihood: Likelihood;
}

/** The choices whose names hold every word that was typed. */
export function foundChoices(choices: readonly PatternChoice[], typed: string): PatternChoice[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return choices.filter(({ name }) => words.every((word) => name.toLowerCase().includes(word)));
}
