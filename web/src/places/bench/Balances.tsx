import type { BatterView } from "../../api/client";
import { useBench } from "../../app/BenchContext";
import { Track } from "../../kit/Track";
import { AcidPicture, Legend, PiecePicture, SpreadPicture, WaterPicture } from "./Pictures";

const TRACKS = ["flow", "lift", "acid", "set", "sweetness", "fat", "salt", "browning", "net_carb"];
type Props = { base: BatterView; after: BatterView | undefined; onOpen: (ledger: string) => void };

/** The balances on their tracks, before and after, and the pictures of water and of acid. */
export function Balances({ base, after, onOpen }: Props) {
  const { start } = useBench();
  const scales = (after ?? base).scales;
  return (
    <>
      <section
        aria-label="Balances"
        className="relative mt-2 gap-1 border-t border-base-300 pt-2 max-lg:flex max-lg:overflow-x-auto max-lg:[&>*]:w-36 max-lg:[&>*]:shrink-0 lg:grid lg:grid-cols-9"
      >
        {base.ledgers
          .filter((l) => TRACKS.includes(l.key))
          .map((ledger) => (
            <Track
              key={ledger.key}
              before={ledger}
              after={after?.ledgers.find((l) => l.key === ledger.key)}
              scale={scales[ledger.key]}
              tellings={start.tellings}
              onOpen={() => onOpen(ledger.key)}
            />
          ))}
      </section>
      <section aria-label="Pictures" className="mt-3 grid grid-cols-1 gap-x-10 gap-y-4 lg:grid-cols-2">
        <WaterPicture before={base} after={after} />
        <AcidPicture before={base} after={after} />
        <SpreadPicture before={base} after={after} />
        <PiecePicture before={base} after={after} />
        <Legend made={after !== undefined} />
      </section>
    </>
  );
}
