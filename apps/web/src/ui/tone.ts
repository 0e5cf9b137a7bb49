/** Pitches: inside the window, outside of it, hertz. */
const INSIDE_HERTZ = 880;
const OUTSIDE_HERTZ = 330;
const SECONDS = 0.22;

let context: AudioContext | null = null;

/** A short tone: high inside the window, low and twice outside of it. Needs a touch on the page before it may sound. */
export function sound(fits: boolean): void {
  context ??= new AudioContext();
  const { currentTime } = context;
  const times = fits ? [0] : [0, SECONDS * 1.4];
  for (const delay of times) {
    const oscillator = context.createOscillator();
    const volume = context.createGain();
    oscillator.type = fits ? "sine" : "triangle";
    oscillator.frequency.value = fits ? INSIDE_HERTZ : OUTSIDE_HERTZ;
    volume.gain.setValueAtTime(0.35, currentTime + delay);
    volume.gain.exponentialRampToValueAtTime(0.001, currentTime + delay + SECONDS);
    oscillator.connect(volume).connect(context.destination);
    oscillator.start(currentTime + delay);
    oscillator.stop(currentTime + delay + SECONDS);
  }
}

/** Says a text aloud where the browser can; what was being said is cut off. */
export function say(text: string): void {
  if (!("speechSynthesis" in window)) return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(text));
}

/** Whether this browser can say numbers aloud. */
export function canSpeak(): boolean {
  return "speechSynthesis" in window;
}
