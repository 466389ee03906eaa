const KEY = "mutabilis.sound";
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

/** Whether the browser still keeps all sound back, since nobody has touched this page. */
export function soundHeld(): boolean {
  return soundOn() && navigator.userActivation?.hasBeenActive === false;
}

/** Soft strokes, made here: rising and back for most clocks, falling where something comes off the heat. */
export function chime(off = false): void {
  if (!soundOn()) return;
  context ??= new AudioContext();
  const start = context.currentTime + 0.02;
  (off ? [620, 460] : [660, 880, 660]).forEach((pitch, n) => {
    const tone = context!.createOscillator();
    const loud = context!.createGain();
    tone.frequency.value = pitch;
    tone.type = "triangle";
    loud.gain.setValueAtTime(0, start + n * 0.35);
    loud.gain.linearRampToValueAtTime(0.35, start + n * 0.35 + 0.02);
    loud.gain.exponentialRampToValueAtTime(0.001, start + n * 0.35 + 0.3);
    tone.connect(loud).connect(context!.destination);
    tone.start(start + n * 0.35);
    tone.stop(start + n * 0.35 + 0.32);
  });
}
