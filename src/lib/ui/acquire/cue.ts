export const cueKinds = ['tones', 'words', 'none'] as const;
export type CueKind = (typeof cueKinds)[number];
export const cueWords: Readonly<Record<CueKind, string>> = {
  tones: 'Tones',
  words: 'Spoken words',
  none: 'No sound'
};

/** What is told to those whose hands and eyes are elsewhere. */
export type Cue = 'ready' | 'stored' | 'doubtful' | 'done' | 'faulted' | 'absent';

/** Short tones in Hz: ready rises, stored falls, done rises twice, doubt wavers, trouble repeats. */
const tones: Record<Cue, readonly number[]> = {
  ready: [523, 784],
  stored: [784, 523],
  done: [523, 659, 784],
  doubtful: [440, 415, 440],
  faulted: [330, 330, 330],
  absent: [330, 330, 330]
};
const toneSeconds = 0.11;

let context: AudioContext | null = null;
const spoken = new Map<Cue, Promise<AudioBuffer>>();
/** Cues are heard one after the other: the next waits for this moment of the context's clock. */
let silentFrom = 0;

export function cueKind(): CueKind {
  const kept = localStorage.getItem('cues');
  // As it was written while there were tones alone.
  if (kept === 'off') return 'none';
  return cueKinds.find((kind) => kind === kept) ?? 'tones';
}
export const setCueKind = (kind: CueKind): void => localStorage.setItem('cues', kind);

export function cue(what: Cue): void {
  const kind = cueKind();
  if (kind === 'none') return;
  context ??= new AudioContext();
  if (context.state === 'suspended') return;
  if (kind === 'tones') sound(context, tones[what]);
  else void say(context, what);
}

function sound(into: AudioContext, frequencies: readonly number[]): void {
  const first = inTurn(into, frequencies.length * toneSeconds * 1.3);
  frequencies.forEach((frequency, i) => {
    const tone = into.createOscillator();
    const volume = into.createGain();
    const start = first + i * toneSeconds * 1.3;
    tone.frequency.value = frequency;
    volume.gain.setValueAtTime(0.0001, start);
    volume.gain.exponentialRampToValueAtTime(0.2, start + 0.015);
    volume.gain.exponentialRampToValueAtTime(0.0001, start + toneSeconds);
    tone.connect(volume).connect(into.destination);
    tone.start(start);
    tone.stop(start + toneSeconds);
  });
}

/** Says it; while the words can't be had, the tones tell it. */
async function say(into: AudioContext, what: Cue): Promise<void> {
  let words: AudioBuffer;
  try {
    if (!spoken.has(what)) spoken.set(what, fetchWords(into, what));
    words = await spoken.get(what)!;
  } catch {
    spoken.delete(what);
    return sound(into, tones[what]);
  }
  const source = into.createBufferSource();
  source.buffer = words;
  source.connect(into.destination);
  source.start(inTurn(into, words.duration));
}

/** When what lasts so many seconds can begin. */
function inTurn(into: AudioContext, seconds: number): number {
  const start = Math.max(into.currentTime, silentFrom);
  silentFrom = start + seconds;
  return start;
}

async function fetchWords(into: AudioContext, what: Cue): Promise<AudioBuffer> {
  const answer = await fetch(`/spoken/${what}.wav`);
  if (!answer.ok) throw new Error(`No words for ${what}.`);
  return into.decodeAudioData(await answer.arrayBuffer());
}
