type Key = "untested" | "made" | "proven";

/** How far a version has come: an empty cup, a half and a full one, with the word. */
export function Standing({ standing }: { standing: Key }) {
  return (
    <span className="inline-flex items-center gap-1 text-sm whitespace-nowrap">
      <svg viewBox="0 0 16 16" className="size-4" aria-hidden="true">
        <path d="M2 6h12a6 6 0 01-12 0z" fill="none" stroke="currentColor" strokeWidth="1.500" />
        {standing !== "untested" && (
          <path d={standing === "made" ? "M3 8.500h10a5 5 0 01-10 0z" : "M2 6h12a6 6 0 01-12 0z"} fill="currentColor" />
        )}
        <path d="M5 14h6" stroke="currentColor" strokeWidth="1.500" />
      </svg>
      {standing}
    </span>
  );
}
