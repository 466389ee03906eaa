/** A clock that follows another: what it was last told, and what has passed since. `device` is this machine's own [s since 1970]. */
export class Clock {
  private ahead = 0;

  constructor(private device: () => number = () => Date.now() / 1000) {}

  /** What time the other one says it is [s since 1970]: followed from now on, whatever this device's own clock says. */
  heard(other: number): void {
    this.ahead = other - this.device();
  }

  /** This moment [s since 1970]. */
  readonly now = (): number => this.device() + this.ahead;
}

/** Minutes and seconds, with a sign for what is past. */
export function span(seconds: number): string {
  const whole = Math.round(Math.abs(seconds));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const rest = String(whole % 60).padStart(2, "0");
  const text = hours > 0 ? `${hours}:${String(minutes).padStart(2, "0")}:${rest}` : `${minutes}:${rest}`;
  return seconds < 0 && whole > 0 ? `+${text}` : text;
}

/** The hour of a moment, as the clock on the wall shows it where this is. */
export function hour(seconds: number): string {
  return new Intl.DateTimeFormat(undefined, { hour: "2-digit", minute: "2-digit", hourCycle: "h23" }).format(
    seconds * 1000,
  );
}

/** The next time that the clock on the wall shows an hour like "07:30" [s since 1970], this minute included; null where it is none. Where
 * clocks are moved in the night, it is the hour on the wall that counts, not so many hours from now. */
export function atHour(text: string, now: number): number | null {
  const found = /^([01]?\d|2[0-3]):([0-5]\d)$/.exec(text);
  if (!found) return null;
  const day = new Date(now * 1000);
  day.setHours(Number(found[1]), Number(found[2]), 0, 0);
  if (day.getTime() / 1000 < now - 60) {
    day.setDate(day.getDate() + 1);
    day.setHours(Number(found[1]), Number(found[2]), 0, 0);
  }
  return day.getTime() / 1000;
}
