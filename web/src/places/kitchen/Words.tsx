import { useQuery } from "@tanstack/react-query";
import { type Answered, api, got } from "../../api/client";
import { wordsQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { Button } from "../../kit/Button";

type Word = Answered<"KitchenWord">;

/** Words that this kitchen said are preparation, each for one food; any of them can be forgotten. */
export function WordList() {
  const words = useQuery(wordsQuery);
  const forget = useWrite(
    ({ word, ingredient }: Word) => got(api.DELETE("/api/words", { params: { query: { word, ingredient } } })),
    { changes: "words" },
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
            <Button className="ml-auto" onClick={() => forget.mutate(w)}>
              Forget
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
