import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { type Answered, api, got } from "../../api/client";
import { useBeat } from "../../api/counter";
import { devicesQuery } from "../../api/queries";
import { give } from "../../api/write";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";

type Act = Answered<"ScaleAct">["act"];

/** The devices on the counter, beside what is being done. The ones that ship are simulated, and are poured into and switched here. */
export function Devices({ onClose }: { onClose: () => void }) {
  return (
    <aside
      aria-label="Devices"
      className="fixed inset-x-0 bottom-14 z-30 max-h-[46dvh] overflow-y-auto border-t-2 border-base-content bg-base-100 p-4 md:inset-y-0 md:right-0 md:bottom-0 md:left-auto md:max-h-none md:w-[21rem] md:border-t-0 md:border-l-2"
    >
      <header className="flex items-center justify-between">
        <h2 className="text-xl font-bold">Devices</h2>
        <Button kind="ghost" onClick={onClose}>
          Close
        </Button>
      </header>
      <p>These devices are simulated. Pour by hand; the scale behaves as one does.</p>
      <Panel />
    </aside>
  );
}

function Panel() {
  const { grams } = useNumbers();
  const queries = useQueryClient();
  const beat = useBeat();
  const panel = useQuery(devicesQuery);
  const pouring = useRef<ReturnType<typeof setInterval>>(undefined);
  const touch = async (act: Act, amount = 0) => {
    const next = await got(api.POST("/api/devices/scale", { body: { act, grams: amount } })).catch(() => null);
    if (next) give(queries, devicesQuery.queryKey, next);
  };
  const surface = async (off_by_c: number, plugged: boolean) => {
    const next = await got(api.POST("/api/devices/surface", { body: { off_by_c, plugged } })).catch(() => null);
    if (next) give(queries, devicesQuery.queryKey, next);
  };
  const stop = () => clearInterval(pouring.current);
  const start = () => {
    stop();
    touch("pour", 4);
    pouring.current = setInterval(() => touch("pour", 4), 120);
  };
  const p = panel.data;
  if (!p) return <p>Looking…</p>;
  return (
    <div className="mt-3 grid gap-5">
      <section aria-label="Scale">
        <h3 className="text-lg font-bold">
          Scale:{" "}
          <span className="figure">
            {beat?.pour.gross === null || !beat ? "–" : `${grams(beat.pour.gross ?? 0)} g`}
          </span>
        </h3>
        <div className="mt-2 flex flex-wrap gap-2">
          <Button kind="large" onClick={() => touch("pour", 400)}>
            Bowl on, 400 g
          </Button>
          {[1, 5, 25, 100].map((g) => (
            <Button kind="large" key={g} onClick={() => touch("pour", g)}>
              +{g} g
            </Button>
          ))}
          <Button kind="large" onClick={() => touch("pour", -10)}>
            −10 g
          </Button>
          <button
            type="button"
            className="min-h-14 touch-none rounded-field border-2 border-primary px-5 text-lg font-semibold text-primary select-none"
            onPointerDown={start}
            onPointerUp={stop}
            onPointerLeave={stop}
            onPointerCancel={stop}
            onKeyDown={(event) => (event.key === " " || event.key === "Enter") && touch("pour", 4)}
          >
            Hold to pour
          </button>
        </div>
        <div className="mt-2 flex flex-wrap gap-2">
          {p.lifted ? (
            <Button kind="large" onClick={() => touch("put_back")}>
              Put the bowl back
            </Button>
          ) : (
            <Button kind="large" onClick={() => touch("lift")}>
              Lift the bowl
            </Button>
          )}
          <Button kind="large" onClick={() => touch("tare")}>
            Tare on the scale
          </Button>
          <Button kind="large" onClick={() => touch("pour", 700)}>
            Knock it
          </Button>
          <Button kind="large" pressed={p.frozen} onClick={() => touch(p.frozen ? "thaw" : "freeze")}>
            {p.frozen ? "Is frozen" : "Freeze it"}
          </Button>
          <Button kind="large" pressed={!p.plugged} onClick={() => touch(p.plugged ? "unplug" : "plug")}>
            {p.plugged ? "Unplug it" : "Is unplugged"}
          </Button>
          <Button kind="large" onClick={() => touch("clear")}>
            Empty the scale
          </Button>
        </div>
      </section>
      <section aria-label="Surface">
        <h3 className="text-lg font-bold">
          Surface: <span className="figure">{beat?.surface_c ?? "–"} °C</span>
        </h3>
        <div className="mt-2 flex flex-wrap gap-2">
          {[-20, 0, 20].map((by) => (
            <Button kind="large" key={by} pressed={p.off_by_c === by} onClick={() => surface(by, p.surface_plugged)}>
              {by === 0 ? "runs true" : `runs ${Math.abs(by)} °C ${by > 0 ? "hot" : "cold"}`}
            </Button>
          ))}
          <Button kind="large" pressed={!p.surface_plugged} onClick={() => surface(p.off_by_c, !p.surface_plugged)}>
            {p.surface_plugged ? "Unplug its thermometer" : "Thermometer is unplugged"}
          </Button>
        </div>
      </section>
      <section aria-label="Label printer">
        <h3 className="text-lg font-bold">Label printer: {p.labels_left} labels left</h3>
        {p.printed.length > 0 && (
          <ul className="mt-2 grid gap-2">
            {p.printed.map((lines, n) => (
              <li key={n} className="border border-base-content/40 bg-base-100 p-2 text-sm">
                {lines.map((line, k) => (
                  <p key={k} className={k === 0 ? "text-base font-bold" : ""}>
                    {line}
                  </p>
                ))}
              </li>
            ))}
          </ul>
        )}
      </section>
    </div>
  );
}
