const KEY = "mutabilis.sound";
const LOUD = "mutabilis.volume";
let context: AudioContext | null = null;

/** Whether clocks sound on this device. Quiet until someone wishes otherwise. */
export function soundOn(): boolean {
  return localStorage.getItem(KEY) === "on";
}

/** Let clocks sound, or be quiet. Turned on by a touch, which is also what lets a browser sound at all. */
export function setSound(on: boolean): void {
  localStorage.setItem(KEY, on ? "on" : "off");
  if (on) chime();
}

/** How loud clocks are on this device, from 0 to 1. */
export function volume(): number {
  const kept = Number(localStorage.getItem(LOUD) ?? "0.5");
  return kept > 0 && kept <= 1 ? kept : 0.5;
}

export function setVolume(loud: number): void {
  localStorage.setItem(LOUD, String(loud));
}

/** Whether the browser still keeps all sound back, since nobody has touched this page. */
export function soundHeld(): boolean {
  return soundOn() && navigator.userActivation?.hasBeenActive === false;
}

/** Soft strokes, made here: rising and back for most clocks, falling where something comes off the heat. `trying`: heard
 * also where clocks are quiet. */
export function chime(off = false, trying = false): void {
  if (!soundOn() && !trying) return;
  context ??= new AudioContext();
  const start = context.currentTime + 0.02;
  (off ? [620, 460] : [660, 880, 660]).forEach((pitch, n) => {
    const tone = context!.createOscillator();
    const loud = context!.createGain();
    tone.frequency.value = pitch;
    tone.type = "triangle";
    loud.gain.setValueAtTime(0, start + n * 0.35);
    loud.gain.linearRampToValueAtTime(0.7 * volume(), start + n * 0.35 + 0.02);
    loud.gain.exponentialRampToValueAtTime(0.001, start + n * 0.35 + 0.3);
    tone.connect(loud).connect(context!.destination);
    tone.start(start + n * 0.35);
    tone.stop(start + n * 0.35 + 0.32);
  });
}
