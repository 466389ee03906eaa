import type { Does as DoesType } from "../../api/client";

// A mark of its own for each thing that an ingredient does, drawn on a grid of 16.
const MARKS: Record<string, { path: string; word: string }> = {
  drinks: { path: "M4 3h8l-1 10H5zM5 8h6", word: "drinks" },
  wets: { path: "M8 2c3 4 4 6 4 8a4 4 0 01-8 0c0-2 1-4 4-8z", word: "brings water" },
  sets: { path: "M3 3v10M8 3v10M13 3v10M3 8h10", word: "sets" },
  lifts: { path: "M8 14V3M4 7l4-4 4 4", word: "lifts" },
  sours: { path: "M2 8a6 6 0 0112 0zM8 8V3M8 8L4 4M8 8l4-4", word: "sours" },
  sweetens: { path: "M3 6l5-3 5 3v5l-5 3-5-3zM3 6l5 3 5-3M8 9v5", word: "sweetens" },
  enriches: { path: "M2 11c2-6 10-6 12 0zM5 8h6", word: "enriches" },
  salts: { path: "M3 3h3v3H3zM10 4h3v3h-3zM5 10h3v3H5zM11 11h2v2h-2z", word: "salts" },
  browns: { path: "M2 12h12M3 9h10M5 6h6", word: "browns" },
  thickens: { path: "M2 5c3-3 3 3 6 0s3 3 6 0M2 11c3-3 3 3 6 0s3 3 6 0", word: "thickens" },
};

/** What an ingredient does in a batter, the strongest first: small marks, taller the more it does; words for who cannot see them. */
export function Does({ does, words }: { does: DoesType[]; words?: boolean }) {
  if (!words)
    return (
      <span className="shrink-0 text-sm opacity-85">
        {does
          .slice(0, 2)
          .map((d) => MARKS[d.function]?.word)
          .filter(Boolean)
          .join(", ")}
      </span>
    );
  return (
    <ul className="flex shrink-0 flex-wrap items-end gap-1.5" aria-label="Does">
      {does.slice(0, 10).map((d) => {
        const mark = MARKS[d.function];
        if (!mark) return null;
        return (
          <li
            key={d.function}
            className="flex items-end gap-1"
            title={`${mark.word}, ${Math.round(100 * d.strength)} %`}
          >
            <svg viewBox="0 0 16 16" className="size-5" aria-hidden="true" style={{ opacity: 0.5 + 0.5 * d.strength }}>
              <path
                d={mark.path}
                fill="none"
                stroke="currentColor"
                strokeWidth="1.400"
                strokeLinejoin="round"
                strokeLinecap="round"
              />
            </svg>
            <span
              className="block w-1 bg-base-content"
              style={{ height: `${4 + 14 * d.strength}px` }}
              aria-hidden="true"
            />
            <span className="mr-3 text-sm">
              {mark.word} {Math.round(100 * d.strength)} %
            </span>
          </li>
        );
      })}
    </ul>
  );
}
