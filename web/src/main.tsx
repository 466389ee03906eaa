import { useQuery } from "@tanstack/react-query";
import { stoveQuery } from "./api/queries";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/bricolage-grotesque/wght.css";
import "./app.css";
import { notifyManager, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter, Link, Navigate, Route, Routes } from "react-router";
import { Problem } from "./api/client";
import { BenchProvider } from "./app/BenchContext";
import { Frame } from "./app/Frame";
import { storedTheme, wear } from "./app/theme";
import { part } from "./kit/part";
import { ToldProvider } from "./kit/Toast";
import { Bench } from "./places/bench/Bench";

const places = {
  book: part(() => import("./places/book/Book")),
  larder: part(() => import("./places/larder/Larder")),
  kitchen: part(() => import("./places/kitchen/Kitchen")),
  stove: part(() => import("./places/stove/Stove")),
  morning: part(() => import("./places/morning/Morning")),
  journal: part(() => import("./places/journal/Journal")),
  help: part(() => import("./places/help/Help")),
  card: part(() => import("./places/card/CardPage")),
};

// The place that is opened is fetched beside what the bench begins with, not after it.
const opened = Object.entries(places).find(([name]) => name === window.location.pathname.split("/")[1]);
void opened?.[1].fetch();

wear(storedTheme());

const LOADED_ANEW = "mutabilis.loaded-anew";

/** Whether the server now gives out another program than the one that is running here. */
async function isReplaced() {
  const answer = await fetch(location.pathname, { cache: "no-store" }).catch(() => null);
  return Boolean(answer?.ok && !(await answer.text()).includes(new URL(import.meta.url).pathname));
}

// A page that was open while a newer one was put in its place asks for parts that are gone: it is loaded anew, once a minute at most. A part
// that fails for another reason is waited for: to load anew would take away what is open, and with the server gone leave nothing to look at.
window.addEventListener("vite:preloadError", async () => {
  if (Date.now() - Number(sessionStorage.getItem(LOADED_ANEW)) < 60_000 || !(await isReplaced())) return;
  sessionStorage.setItem(LOADED_ANEW, `${Date.now()}`);
  location.reload();
});

/** Every place opens without a network: kept by the service worker, or fetched now where there can be none (plain http in a kitchen's own network). */
async function keepPlaces() {
  try {
    await navigator.serviceWorker.register("/sw.js");
  } catch {
    for (const place of Object.values(places)) await place.fetch();
  }
}
if (import.meta.env.PROD) window.addEventListener("load", () => void keepPlaces());

// An answer is shown before anything that waited for it goes on: a step is never offered once more because its answer is still to be drawn.
notifyManager.setScheduler(queueMicrotask);

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // What stands on screen stays while the server is gone: it is asked until it answers. A book that cannot be used just now (503) is asked for a while.
      retry: (n, error) => error instanceof Problem && (error.status === 0 || (error.status === 503 && n < 6)),
      retryDelay: (n, error) =>
        error instanceof Problem && error.status === 0 ? 1500 : Math.min(1000 * 2 ** n, 30_000),
      staleTime: 60_000,
      refetchOnWindowFocus: false,
      networkMode: "always",
    },
  },
});

/** Where the cook is: at a batch that is under way, else at the Bench with the last batter on it. */
function Home() {
  const stove = useQuery(stoveQuery);
  if (stove.isPending) return null;
  const last = stove.data?.batches[0];
  return <Navigate to={last ? `/stove/${last.id}` : "/bench"} replace />;
}

/** An address of which nothing is known. */
function Nowhere() {
  return (
    <main className="mx-auto max-w-xl p-10 text-lg">
      <h1 className="mb-2 text-2xl font-bold">There is nothing at this address</h1>
      <p>
        Nothing was lost.{" "}
        <Link to="/bench" className="underline">
          To the Bench
        </Link>
        , or to the{" "}
        <Link to="/book" className="underline">
          Book
        </Link>
        .
      </p>
    </main>
  );
}

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      {/* What is typed or chosen stands in the address: it is there before the next key, which would else be added to what was. */}
      <BrowserRouter useTransitions={false}>
        <ToldProvider>
          <BenchProvider>
            <Frame>
              <Suspense fallback={<p className="p-10 text-lg">Opening…</p>}>
                <Routes>
                  <Route path="/bench" element={<Bench />} />
                  <Route path="/book/:batter?" element={<places.book.Part />} />
                  <Route path="/larder/:id?" element={<places.larder.Part />} />
                  <Route path="/kitchen/:part?" element={<places.kitchen.Part />} />
                  <Route path="/stove/:batch?" element={<places.stove.Part />} />
                  <Route path="/morning/:day?" element={<places.morning.Part />} />
                  <Route path="/journal/:batch?" element={<places.journal.Part />} />
                  <Route path="/card/:version?" element={<places.card.Part />} />
                  <Route path="/help" element={<places.help.Part />} />
                  <Route path="/" element={<Home />} />
                  <Route path="*" element={<Nowhere />} />
                </Routes>
              </Suspense>
            </Frame>
          </BenchProvider>
        </ToldProvider>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
);
