/** Half tones above the lowest tone: any two of these go together. */
const scale = [0, 3, 5, 7, 10, 12, 15, 17, 19, 22];
const lowest = 262;
const seconds = 0.22;

let context: AudioContext | undefined;

/** Sounds a short tone for a cue, always the same for the same name. */
export function sound(cue: string): void {
  context ??= new AudioContext();
  let sum = 0;
  for (const letter of cue) sum = (31 * sum + letter.codePointAt(0)!) % 9973;
  const tone = context.createOscillator();
  const loudness = context.createGain();
  tone.type = sum % 2 === 0 ? 'sine' : 'triangle';
  tone.frequency.value = lowest * 2 ** (scale[sum % scale.length]! / 12);
  loudness.gain.setValueAtTime(0.15, context.currentTime);
  loudness.gain.exponentialRampToValueAtTime(0.001, context.currentTime + seconds);
  tone.connect(loudness).connect(context.destination);
  tone.start();
  tone.stop(context.currentTime + seconds);
}
