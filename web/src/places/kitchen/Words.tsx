import { useQuery } from "@tanstack/react-query";
import { type Answered, api, got } from "../../api/client";
import { useWrite } from "../../parts/write";

type Word = Answered<"KitchenWord">;

/** Words that this kitchen said are preparation, each for one food; any of them can be forgotten. */
export function WordList() {
  const words = useQuery({ queryKey: ["words"], queryFn: () => got(api.GET("/api/words")), staleTime: 0 });
  const forget = useWrite(
    ({ word, ingredient }: Word) => got(api.DELETE("/api/words", { params: { query: { word, ingredient } } })),
    { stale: [["words"]] },
  );
  if (!words.data || words.data.length === 0) return null;
  return (
    <section aria-label="Words of this kitchen" className="mt-8">
      <h2 className="border-b border-base-300 pb-1 text-lg font-bold">Words of this kitchen</h2>
      <p className="my-1">You said that these tell how a thing is prepared.</p>
      <ul>
        {words.data.map((w) => (
          <li
            key={`${w.word} ${w.ingredient}`}
            className="flex min-h-11 items-center gap-3 border-b border-base-300/50"
          >
            <b>{w.word}</b> with {w.name}
            <button
              type="button"
              className="ml-auto min-h-11 rounded-field border border-base-300 px-3"
              onClick={() => forget.mutate(w)}
            >
              Forget
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
