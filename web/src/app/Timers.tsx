import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { stoveQuery } from "../api/queries";
import type { BatchView } from "../api/queue";
import { Button } from "../kit/Button";
import { Mark } from "../kit/Mark";
import { useNow } from "../kit/moment";
import { span } from "../pure/clock";
import { chime, setSound, soundHeld, soundOn } from "./chime";

const FLASH_S = 6; // the screen flashes too, for who cannot hear a clock
type Timer = BatchView["timers"][number] & { batch: string; mark: number; whose: string };

/** The clocks of every batch under way, the next due first; those that are due stand out, and sound where that is wished. */
export function Timers({ view }: { view?: BatchView }) {
  const stove = useQuery({ ...stoveQuery, refetchInterval: view ? false : 20_000 });
  const moment = useNow(250);
  const others: Timer[] = (stove.data?.batches ?? [])
    .filter((b) => b.id !== view?.id)
    .flatMap((b) => b.timers.map((t) => ({ ...t, batch: b.id, mark: b.mark, whose: b.whom || b.name })));
  const own: Timer[] = view ? view.timers.map((t) => ({ ...t, batch: view.id, mark: view.mark, whose: "" })) : [];
  const all = [...own, ...others].sort((a, b) => a.due - b.due);
  const due = all.filter((t) => t.due <= moment);
  useSounding(due.map((t) => `${t.batch} ${t.key}`));
  const [sounds, setSounds] = useState(soundOn);
  const shown = all.length > 0;
  // Whatever else stands at the foot of a place stands above the clocks.
  useEffect(() => {
    if (!shown) return;
    const root = document.documentElement;
    root.style.setProperty("--clocks", "3.5rem");
    return () => void root.style.removeProperty("--clocks");
  }, [shown]);
  if (all.length === 0) return null;
  return (
    <section
      aria-label="Clocks"
      className="fixed inset-x-0 bottom-14 z-20 flex items-center gap-2 overflow-x-auto border-t border-base-300 bg-base-100 px-3 py-1.5 md:bottom-0 md:left-[4.75rem]"
    >
      {all.map((t) => {
        const left = t.due - moment;
        return (
          <Link
            to={`/stove/${t.batch}`}
            key={`${t.batch} ${t.key}`}
            className={`flex min-h-11 shrink-0 items-center gap-2 rounded-field border-2 px-3 ${left <= 0 ? "border-error font-bold text-error" : "border-base-300"}`}
          >
            <Mark mark={t.mark} />
            {t.whose && <span className="max-w-40 truncate">{t.whose}</span>}
            <span>{t.label}</span>
            <span className="figure text-2xl">{span(left)}</span>
          </Link>
        );
      })}
      <span role="alert" className="sr-only">
        {due.map((t) => `${t.whose} ${t.label}: due`).join(". ")}
      </span>
      <Button
        pressed={sounds}
        className="ml-auto shrink-0"
        onClick={() => {
          setSound(!sounds);
          setSounds(!sounds);
        }}
      >
        {sounds ? "Sound is on" : "Sound is off"}
      </Button>
      {soundHeld() && <b className="shrink-0">Touch once to let clocks sound</b>}
      {due.some((t) => moment - t.due < FLASH_S) && (
        <span className="pointer-events-none fixed inset-0 z-40 animate-pulse border-[12px] border-error motion-reduce:animate-none" />
      )}
    </section>
  );
}

/** Sounds once for each clock that has come due, and again each half minute while it stands. */
function useSounding(due: string[]): void {
  const told = useRef(new Map<string, number>());
  const names = due.join("|");
  // Sound is an outside system.
  useEffect(() => {
    const ring = () => {
      const standing = names === "" ? [] : names.split("|");
      for (const key of [...told.current.keys()]) if (!standing.includes(key)) told.current.delete(key);
      const fresh = standing.filter((key) => Date.now() - (told.current.get(key) ?? 0) > 30_000);
      for (const key of fresh) told.current.set(key, Date.now());
      if (fresh.length > 0) chime(fresh.every((key) => key.includes(" off:")));
    };
    ring();
    if (names === "") return;
    const timer = setInterval(ring, 5_000);
    return () => clearInterval(timer);
  }, [names]);
}
