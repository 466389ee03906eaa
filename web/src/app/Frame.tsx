import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, Suspense, useEffect, useState } from "react";
import { Link, NavLink, useLocation, useNavigate } from "react-router";
import { api, got } from "../api/client";
import { part } from "../kit/part";
import { Sheet } from "../kit/Sheet";
import { KEYS, useKeys } from "./keys";
import { useLost } from "./lost";
import { Timers } from "./Timers";

const find = part(() => import("./Find"));

const PLACES = [
  { to: "/bench", label: "Bench", key: "b", path: "M3 8h18M6 8v11M18 8v11M8 8c0-3 2-5 4-5s4 2 4 5" },
  {
    to: "/book",
    label: "Book",
    key: "o",
    path: "M12 4v7M12 11H6v4M12 11h6v4M9.500 4h5M3.500 15h5v5h-5zM15.500 15h5v5h-5z",
  },
  { to: "/larder", label: "Larder", key: "l", path: "M5 20V8l3-4h8l3 4v12zM5 12h14M9 16h6" },
  {
    to: "/stove",
    label: "Stove",
    key: "t",
    path: "M4 14h16M6 14v5M18 14v5M8 10c-2-3 1-4 0-7M12 10c-2-3 1-4 0-7M16 10c-2-3 1-4 0-7",
  },
  {
    to: "/morning",
    label: "Morning",
    key: "a",
    path: "M3 18c4-7 14-7 18 0M7 21c3-4 7-4 10 0M12 3v4M5 6l2.500 2.500M19 6l-2.500 2.500",
  },
  { to: "/journal", label: "Journal", key: "j", path: "M4 4v16h16M4 9c5 0 6 8 15 8" },
  {
    to: "/kitchen",
    label: "Kitchen",
    key: "k",
    path: "M4 10h12v5a5 5 0 01-5 5H9a5 5 0 01-5-5zM16 12h2a2 2 0 010 4h-2M8 4v3M12 4v3",
  },
];

/** What stands around every place: the way to the others, the box that finds anything, the keys, and word of a lost server. */
export function Frame({ children }: { children: ReactNode }) {
  const [open, setOpen] = useState<"find" | "keys" | null>(null);
  const go = useNavigate();
  const { pathname } = useLocation();
  // The network is an outside system: what finds anything is fetched a moment later, so that the first screen comes first.
  useEffect(() => {
    const timer = setTimeout(() => void find.fetch(), 200);
    return () => clearTimeout(timer);
  }, []);
  useKeys({
    f: () => setOpen("find"),
    "?": () => setOpen("keys"),
    ...Object.fromEntries(PLACES.map((p) => [p.key, () => go(p.to)])),
  });
  return (
    <div className="md:pl-[4.75rem] print:pl-0">
      <a
        href="#place"
        className="sr-only focus:not-sr-only focus:fixed focus:top-2 focus:left-2 focus:z-50 focus:bg-base-100 focus:p-3"
      >
        To the place itself
      </a>
      <nav
        aria-label="Places"
        className="fixed inset-x-0 bottom-0 z-30 flex overflow-x-auto border-t border-base-300 bg-base-100 md:inset-y-0 md:right-auto md:w-[4.75rem] md:flex-col md:border-t-0 md:border-r print:hidden"
      >
        <span className="hidden px-1 pt-3 pb-2 text-center font-[family-name:var(--font-display)] text-[0.8rem] font-bold tracking-tight text-primary md:block">
          Mutabilis
        </span>
        {PLACES.map((place) => (
          <NavLink
            key={place.to}
            to={place.to}
            className={({ isActive }) =>
              `flex min-h-14 min-w-12 flex-1 flex-col items-center justify-center gap-0.5 text-[0.8125rem] tracking-tighter md:flex-none md:py-2.5 md:text-sm md:tracking-normal ${
                isActive ? "bg-primary font-semibold text-primary-content" : "hover:bg-base-200"
              }`
            }
          >
            <Glyph path={place.path} />
            {place.label}
          </NavLink>
        ))}
        <button
          type="button"
          onClick={() => setOpen("find")}
          className="flex min-h-14 min-w-12 flex-1 flex-col items-center justify-center gap-0.5 text-[0.8125rem] tracking-tighter hover:bg-base-200 md:mt-auto md:text-sm md:tracking-normal md:flex-none md:py-2.5"
        >
          <Glyph path="M4 6h16M4 12h9M4 18h6M15 17l2.500 3L21 13" />
          Find
        </button>
        <button
          type="button"
          onClick={() => setOpen("keys")}
          className="hidden min-h-11 items-center justify-center text-sm hover:bg-base-200 md:flex md:pb-2"
        >
          Keys
        </button>
      </nav>
      <LostBar />
      <div id="place" className="pb-20 md:pb-0">
        {children}
      </div>
      {!/^\/stove\/./.test(pathname) && <Timers />}
      {open === "find" && (
        <Suspense fallback={<Sheet title="Find" onClose={() => setOpen(null)} children={null} />}>
          <find.Part onClose={() => setOpen(null)} />
        </Suspense>
      )}
      {open === "keys" && <Keys onClose={() => setOpen(null)} />}
    </div>
  );
}

function Glyph({ path }: { path: string }) {
  return (
    <svg viewBox="0 0 24 24" className="size-6" aria-hidden="true">
      <path
        d={path}
        fill="none"
        stroke="currentColor"
        strokeWidth="1.800"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}

/** The server is gone: said at the top until it is back, over the page and not in it, since whatever it pushed away would be missed by the finger
 * that is on its way. What waits goes through when it is back, and what is shown is asked for again. */
function LostBar() {
  const lost = useLost();
  const queries = useQueryClient();
  // The server is an outside system: while it is lost it is asked again and again. Whoever hears it first ends that, and then all that
  // failed meanwhile is asked once more.
  useEffect(() => {
    if (!lost) return;
    const timer = setInterval(() => got(api.GET("/api/health")).catch(() => undefined), 1500);
    return () => {
      clearInterval(timer);
      queries.invalidateQueries({ predicate: (query) => query.state.status === "error" });
    };
  }, [lost, queries]);
  if (!lost) return null;
  return (
    <p
      role="alert"
      className="pointer-events-none fixed inset-x-0 top-0 z-40 bg-error px-4 py-2 font-semibold text-error-content md:left-[4.75rem] print:hidden"
    >
      The server does not answer. What you do is kept here, and goes through when it is back.
    </p>
  );
}

function Keys({ onClose }: { onClose: () => void }) {
  return (
    <Sheet title="Keys" onClose={onClose}>
      <p className="mb-2">
        <Link to="/help" onClick={onClose} className="underline underline-offset-4">
          Help: the places and the terms, in plain words
        </Link>
      </p>
      <table className="w-full">
        <tbody>
          {KEYS.map((k) => (
            <tr key={k.keys} className="border-b border-base-300/60">
              <td className="py-1.5 pr-4">
                <kbd className="rounded-field border border-base-300 px-2 py-0.5 font-semibold">{k.keys}</kbd>
              </td>
              <td className="py-1.5">{k.does}</td>
              <td className="py-1.5 text-right opacity-80">{k.where}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 opacity-85">Every thing on the screen is reached with Tab, and taken with Enter or Space.</p>
    </Sheet>
  );
}
