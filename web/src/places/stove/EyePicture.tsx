// What a spoonful does as it falls: five outlines from a heap that stands to a stream that is gone at once.
const FALLS = [
  "M30 66c2-16 8-24 20-24s18 8 20 24z",
  "M22 66c2-9 6-8 10-12s10-7 18-7 12 3 18 7 8 3 10 12z M44 14h12l2 14-8 8-8-8z",
  "M12 66c6-8 16-10 38-10s32 2 38 10z M45 12h10c2 16 3 26 6 44H39c3-18 4-28 6-44z",
  "M6 66c8-5 20-6 44-6s36 1 44 6z M47 12h6c1 18 2 30 5 48H42c3-18 4-30 5-48z",
  "M2 66c10-3 22-3 48-3s38 0 48 3z M49 12h2.500l1.500 51h-5.500z",
];

/** One step of the scale by eye. */
export function EyePicture({ value }: { value: number }) {
  return (
    <svg viewBox="0 0 100 72" className="h-20 w-full" aria-hidden="true">
      <path d="M30 4c10-3 30-3 40 0-4 8-10 9-20 9S34 12 30 4z" fill="var(--iron)" />
      <path d={FALLS[value + 2]} fill="var(--berry)" fillOpacity="0.85" />
      <path d="M0 68h100" stroke="currentColor" strokeWidth="2.500" />
    </svg>
  );
}
