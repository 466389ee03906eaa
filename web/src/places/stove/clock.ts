import { useEffect, useState } from "react";

let offset = 0; // seconds the server's clock is ahead of this device's

/** The server said what time it is: every clock here follows it, whatever this device's own clock says. */
export function heardTime(serverNow: number): void {
  offset = serverNow - Date.now() / 1000;
}

/** This moment by the server's clock [s since 1970]. */
export function now(): number {
  return Date.now() / 1000 + offset;
}

/** This moment, anew every so many milliseconds. */
export function useNow(every = 250): number {
  const [moment, setMoment] = useState(now);
  // The clock is an outside system: it is looked at again and again.
  useEffect(() => {
    const timer = setInterval(() => setMoment(now()), every);
    return () => clearInterval(timer);
  }, [every]);
  return moment;
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

/** The hour of a moment, as this kitchen's clock on the wall shows it. */
export function hour(seconds: number): string {
  return new Date(seconds * 1000).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12: false });
}

/** Today (or tomorrow, where that hour is past) at an hour like "07:30" [s since 1970]; null where it is none. */
export function atHour(text: string): number | null {
  const found = /^(\d{1,2}):(\d{2})$/.exec(text);
  if (!found) return null;
  const day = new Date(now() * 1000);
  day.setHours(Number(found[1]), Number(found[2]), 0, 0);
  const at = day.getTime() / 1000;
  return at < now() - 60 ? at + 86_400 : at;
}
