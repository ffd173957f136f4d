/** One key of a screen, and what it does. */
export interface ScreenKey {
  key: string;
  does: string;
}

let described = $state.raw<readonly ScreenKey[]>([]);

/** The keys of the screen that one is on. */
export const screenKeys = (): readonly ScreenKey[] => described;

/** Says what the keys of a screen do while it is there; gives back how to stop. */
export function describeKeys(keys: readonly ScreenKey[]): () => void {
  described = keys;
  return () => {
    if (described === keys) described = [];
  };
}

/** Whether a key that was pressed is meant for something else: a field, a button, something open above the page. */
export function isForOthers(event: KeyboardEvent): boolean {
  const target = event.target as Element | null;
  if (event.defaultPrevented) return true;
  return Boolean(
    target?.closest(
      'input, textarea, select, [contenteditable], [role="dialog"], [role="menu"], [role="listbox"]'
    )
  );
}
