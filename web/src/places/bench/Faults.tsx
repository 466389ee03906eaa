import { useQuery } from "@tanstack/react-query";
import type { Batter, BatterView } from "../../api/client";
import { mendQuery } from "../../api/queries";
import { Button } from "../../kit/Button";
import type { Act } from "../../pure/bench";

/** What is at fault in the batter itself, and its mend in one touch; a lack of lift may be meant. */
export function Faults({ base, diets, act }: { base: BatterView; diets: string[]; act: (act: Act) => void }) {
  const found = useQuery({ ...mendQuery(base.batter, diets), enabled: base.at_fault });
  if (!base.at_fault || !found.data || found.data.faults.length === 0) return null;
  const { faults, mend, may_be_flat } = found.data;
  return (
    <section
      aria-label="At fault"
      className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 border-l-[6px] border-warning bg-base-100 px-4 py-2"
    >
      <p className="min-w-72 flex-1">
        <b className="text-warning">The batter itself is at fault.</b> {faults.join(" ")}{" "}
        {mend ? <b>{mend.words}</b> : "Nothing mends it without another fault."}
      </p>
      {mend && (
        <Button kind="outline" onClick={() => act({ type: "mendBase", batter: mend.batter as Batter })}>
          Mend it
        </Button>
      )}
      {may_be_flat && (
        <Button kind="outline" onClick={() => act({ type: "flat" })}>
          It is meant to be flat
        </Button>
      )}
    </section>
  );
}
