const SHAPES = [
  "M10 2a8 8 0 100 16 8 8 0 000-16z",
  "M10 1l9 9-9 9-9-9z",
  "M10 2l9 16H1z",
  "M3 3h14v14H3z",
  "M10 1c5 6 7 8 7 11a7 7 0 01-14 0c0-3 2-5 7-11z",
  "M1 7h18l-4 11H5zM6 3h8v4H6z",
];

/** The mark of a batch: a colour and a shape of its own, so that several are told apart at a glance. */
export function Mark({ mark, large }: { mark: number; large?: boolean }) {
  return (
    <svg viewBox="0 0 20 20" aria-hidden="true" className={large ? "size-8 shrink-0" : "size-5 shrink-0"}>
      <path d={SHAPES[mark % SHAPES.length]} fill={`var(--mark-${mark % SHAPES.length})`} />
    </svg>
  );
}
