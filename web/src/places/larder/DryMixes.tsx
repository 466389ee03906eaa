import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { mixesQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { NumberField } from "../../kit/NumberField";
import { useNumbers } from "../../kit/numbers";
import { useTell } from "../../kit/Toast";
import { day } from "../../pure/format";

type Bag = Answered<"BagView">;

/** The bags of dry mix on the shelf: how much is left of each, until when it keeps, and a batch from it. */
export function DryMixes() {
  const mixes = useQuery(mixesQuery);
  if (!mixes.data || mixes.data.length === 0) return null;
  return (
    <section aria-label="Dry mixes" className="mb-4">
      <h2 className="mb-1 border-b border-base-300 pb-1 text-lg font-bold">Dry mixes</h2>
      <ul className="grid gap-1 lg:grid-cols-2">
        {mixes.data.map((bag) => (
          <One key={bag.kept.id} bag={bag} />
        ))}
      </ul>
    </section>
  );
}

function One({ bag }: { bag: Bag }) {
  const { places } = useNumbers();
  const { kept } = bag;
  const go = useNavigate();
  const tell = useTell();
  const change = useWrite(
    (body: { left_g?: number; away?: boolean }) =>
      got(api.PATCH("/api/dry-mixes/{mix_id}", { params: { path: { mix_id: kept.id } }, body })),
    { changes: "mix", order: `mix ${kept.id}` },
  );
  return (
    <li className={`border-l-[6px] bg-base-100 px-3 py-2 ${bag.past ? "border-warning" : "border-success"}`}>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className="min-w-0 truncate">{kept.bag.name}</b>
        <span>
          {Math.abs(bag.batches - 1) < 0.05 ? "1 batch" : `${places(bag.batches, 1)} batches`} left; use by{" "}
          {day(kept.use_by)}
        </span>
        {bag.past && <b className="text-warning">past its day</b>}
      </p>
      <p className="text-sm">{bag.add_words}</p>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        <Button
          kind="small"
          disabled={kept.left_g < 1}
          onClick={() => go(`/stove?make=${kept.version_id}&mix=${kept.id}`)}
        >
          Make a batch from it
        </Button>
        <NumberField
          label="left"
          unit="g"
          value={Math.round(kept.left_g)}
          min={0}
          max={1_000_000}
          required
          whenDone
          onChange={(left_g) => {
            if (left_g === null || left_g === Math.round(kept.left_g)) return;
            change.mutate({ left_g });
            tell("Kept.", () => change.mutate({ left_g: kept.left_g }));
          }}
        />
        <a
          className="inline-flex min-h-9 items-center rounded-field border border-base-300 px-2.5 text-sm pointer-coarse:min-h-11"
          href={`/api/dry-mixes/${kept.id}/label.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          Label
        </a>
        <Button
          kind="small"
          onClick={() => {
            change.mutate({ away: true });
            tell(`${kept.bag.name}: the bag is put away.`, () => change.mutate({ away: false }));
          }}
        >
          Used up
        </Button>
      </p>
      {change.isError && <p role="alert">{change.error.message}</p>}
    </li>
  );
}
