/** So long nothing is typed, and what was typed is asked for. */
const pauseMs = 250;

/** Does something with what is typed, once nothing more is typed for a moment. */
export function afterTyping(act: (words: string) => void): (words: string) => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  return (words) => {
    clearTimeout(timer);
    timer = setTimeout(() => act(words.trim()), pauseMs);
  };
}
