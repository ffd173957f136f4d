/** Short tones for what the hands can't look at: ready rises, stored falls, trouble repeats. */
const tones = { ready: [523, 784], stored: [784, 523], trouble: [330, 330, 330] } as const;
const toneSeconds = 0.11;

let context: AudioContext | null = null;

export const cuesAreOn = (): boolean => localStorage.getItem('cues') !== 'off';
export const setCues = (on: boolean): void => localStorage.setItem('cues', on ? 'on' : 'off');

export function cue(what: keyof typeof tones): void {
  if (!cuesAreOn()) return;
  context ??= new AudioContext();
  if (context.state === 'suspended') return;
  tones[what].forEach((frequency, i) => {
    const tone = context!.createOscillator();
    const volume = context!.createGain();
    const start = context!.currentTime + i * toneSeconds * 1.3;
    tone.frequency.value = frequency;
    volume.gain.setValueAtTime(0.0001, start);
    volume.gain.exponentialRampToValueAtTime(0.2, start + 0.015);
    volume.gain.exponentialRampToValueAtTime(0.0001, start + toneSeconds);
    tone.connect(volume).connect(context!.destination);
    tone.start(start);
    tone.stop(start + toneSeconds);
  });
}
