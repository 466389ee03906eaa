import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { againQuery } from "../../api/queries";

/** What went wrong with this version more than once, where it is opened; one touch leads to why. */
export function SeenAgain({ version }: { version: string | null }) {
  const found = useQuery(againQuery(version));
  const worst = found.data?.[0];
  if (!worst) return null;
  return (
    <p className="mb-2 border-l-[6px] border-warning bg-base-100 px-3 py-2 print:hidden">
      This version came out <b>{worst.words}</b> {worst.times === 2 ? "twice" : `${worst.times} times`}.{" "}
      <Link to={`/journal/${worst.batch}`} className="inline-flex min-h-11 items-center underline underline-offset-4">
        See why
      </Link>
    </p>
  );
}
