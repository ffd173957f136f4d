/** How the parts of a day or a time look while they are typed, and what stands between them. */
export const segmentLook = {
  part: 'focus:bg-coral-wash aria-[valuetext=Empty]:text-ink-soft rounded px-1 py-1.5 focus:outline-2',
  between: 'text-ink-soft px-px'
};
