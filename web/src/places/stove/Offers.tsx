import { useQuery } from "@tanstack/react-query";
import type { Answered } from "../../api/client";
import { offersQuery } from "../../api/queries";
import type { BatchView } from "../../api/queue";
import { Acts, Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { useInHand } from "./useBatch";

type Line = BatchView["weighing"]["lines"][number];
type Offer = Answered<"Offer">;

/** The ways on where the bowl is not as planned, each with what it does to the balances. The one that keeps the most stands first. */
export function Offers({
  line,
  why,
  onDone,
  onBack,
}: {
  line: Line;
  why: "over" | "none_left";
  onDone: (targets: Offer["targets"], words: string) => void;
  onBack?: () => void;
}) {
  const { view } = useInHand();
  const { figure, grams } = useNumbers();
  const offers = useQuery(offersQuery(view.id, view.count, line.at, why));
  return (
    <>
      <h3 className="text-3xl font-bold">
        {why === "over" ? `${grams(line.over)} g too much ${line.name}` : `No more ${line.name}`}
      </h3>
      <p className="mt-1 text-lg">
        {why === "over"
          ? "Spoon it out and take the pour back, or go on in one of these ways:"
          : `${grams(line.poured)} g of it are in. Solved again around what is in the bowl:`}
      </p>
      {offers.isPending && <p className="mt-4 text-xl">Working it out…</p>}
      {offers.isError && <p role="alert">{offers.error.message}</p>}
      <ul className="mt-4 grid gap-3">
        {offers.data?.map((offer, n) => (
          <li key={`${offer.key} ${offer.title}`} className="rounded-box bg-base-100 px-4 py-3">
            <div className="flex flex-wrap items-center gap-4">
              <div className="min-w-64 flex-1">
                <h4 className="text-2xl font-bold">{offer.title}</h4>
                <p className="text-lg">{offer.text}</p>
                <p className="text-lg font-semibold">
                  {offer.keeps.length === 2
                    ? "Flow and lift stay."
                    : offer.keeps.length === 1
                      ? `${offer.keeps[0] === "flow" ? "Flow stays; lift moves." : "Lift stays; flow moves."}`
                      : "Flow and lift move."}{" "}
                  About {Math.round(offer.pieces)} pieces.
                </p>
              </div>
              {n === 0 ? (
                <Button kind="next" onClick={() => onDone(offer.targets, offer.text)}>
                  Take this
                </Button>
              ) : (
                <Button kind="large" onClick={() => onDone(offer.targets, offer.text)}>
                  Take this
                </Button>
              )}
            </div>
            <dl className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
              {offer.moved
                .filter(
                  (m) => m.before !== null && m.after !== null && figure(m.before, m.unit) !== figure(m.after, m.unit),
                )
                .map((m) => (
                  <div key={m.key} className="flex gap-1.5">
                    <dt>{m.label}</dt>
                    <dd className="figure">
                      <span className="text-secondary">{figure(m.before, m.unit)}</span> →{" "}
                      <span className="text-primary">{figure(m.after, m.unit)}</span> {m.unit}
                    </dd>
                  </div>
                ))}
            </dl>
          </li>
        ))}
      </ul>
      {onBack && (
        <Acts>
          <Button kind="large" onClick={onBack}>
            There is some left after all
          </Button>
        </Acts>
      )}
    </>
  );
}
