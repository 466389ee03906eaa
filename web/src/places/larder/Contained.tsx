import { api, got } from "../../api/client";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { useNumbers } from "../../kit/numbers";
import { Sources } from "../../kit/Sources";
import { useTell } from "../../kit/Toast";
import { allergen } from "../../pure/format";
import type { Known } from "./item";

/** What is in 100 g of it, by the table or its label. */
export function Contained({ ingredient: i }: { ingredient: Known["ingredient"] }) {
  const { places } = useNumbers();
  return (
    <div>
      <h3 className="mb-1 font-bold">In 100 g</h3>
      <table className="w-full max-w-sm">
        <tbody>
          {(
            [
              ["energy", i.kcal, "kcal"],
              ["water", i.water_g, "g"],
              ["fat", i.fat_g, "g"],
              ["carbohydrate, fibre in it", i.carb_g, "g"],
              ["sugars", i.sugars_g, "g"],
              ["fibre", i.fibre_g, "g"],
              ["protein", i.protein_g, "g"],
              ["sodium", i.sodium_mg, "mg"],
            ] as const
          ).map(([name, value, unit]) => (
            <tr key={name} className="border-b border-base-300/50">
              <td className="py-0.5">{name}</td>
              <td className="figure py-0.5 text-right">{places(value, 1)}</td>
              <td className="py-0.5 pl-1 text-sm">{unit}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Sources>
        {i.confidence} confidence, {i.source}
      </Sources>
    </div>
  );
}

/** Its allergens, and what was read on its packs. */
export function AllergensAndPacks({ known }: { known: Known }) {
  const { ingredient: i } = known;
  const tell = useTell();
  const unread = useWrite(
    ({ reading, back }: { reading: string; back: boolean }) =>
      got(api.DELETE("/api/readings/{id_}", { params: { path: { id_: reading }, query: { back } } })),
    { changes: "reading" },
  );
  return (
    <div>
      <h3 className="mb-1 font-bold">Allergens and packs</h3>
      <p>
        {i.allergens.length > 0 ? i.allergens.map(worded).join(", ") : "None of the listed allergens in it"}
        {i.contains_gluten === "risk" && "; gluten may travel with it"}. The pack's own label decides.
      </p>
      {known.standing && (
        <p className="mt-1">
          <b>Stands:</b> {known.standing}.
        </p>
      )}
      <ul>
        {known.readings.map((r) => (
          <li key={r.id} className="flex min-h-11 flex-wrap items-center gap-2 border-b border-base-300/50">
            {r.reading.on}: {r.reading.pack}, read by {r.reading.by}
            <span className="ml-auto">
              <Button
                kind="small"
                onClick={() => {
                  unread.mutate({ reading: r.id, back: false });
                  tell("That reading counts no more.", () => unread.mutate({ reading: r.id, back: true }));
                }}
              >
                Undo
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

function worded(token: string): string {
  const [kind, rest] = token.includes(":") ? (token.split(/:(.*)/s) as [string, string]) : ["", token];
  if (kind === "may") return `may hold traces of ${allergen(rest)}`;
  if (kind === "check") return rest === "any" ? "only the pack can tell" : `check the pack for ${allergen(rest)}`;
  if (kind === "cross") return `some who react to ${allergen(rest)} react to it too`;
  return allergen(token);
}
