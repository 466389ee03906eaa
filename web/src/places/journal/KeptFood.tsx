import { useQuery } from "@tanstack/react-query";
import { type Answered, api, got } from "../../api/client";
import { keptQuery } from "../../api/queries";
import { freshId, useWrite } from "../../api/write";
import { Button } from "../../kit/Button";
import { useTell } from "../../kit/Toast";
import { day } from "../../pure/format";

type Kept = Answered<"KeptFood">;
const SHOWN = 4; // the rest is a touch away

/** What is kept from earlier batches, the one to be used first at the top; what is past its day is thrown away. */
export function KeptFood() {
  const found = useQuery(keptQuery);
  const tell = useTell();
  const say = useWrite(
    ({ batch, ...said }: { batch: string; id: string; kind: "kept" | "unsaid"; of: string; answer?: string }) =>
      got(
        api.POST("/api/journal/batches/{batch_id}/said", {
          params: { path: { batch_id: batch } },
          body: said as never,
        }),
      ),
    { changes: "said" },
  );
  if (!found.data || found.data.length === 0) return null;
  const gone = (k: Kept, answer: string) => {
    const id = freshId();
    say.mutate({ batch: k.batch, id, kind: "kept", of: k.event, answer });
    tell(`${k.name}: ${answer}.`, () => say.mutate({ batch: k.batch, id: freshId(), kind: "unsaid", of: id }));
  };
  return (
    <section aria-label="Kept food" className="mb-4 print:hidden">
      <h2 className="mb-1 border-b border-base-300 pb-1 text-lg font-bold">Kept food</h2>
      <Rows kept={found.data.slice(0, SHOWN)} gone={gone} />
      {found.data.length > SHOWN && (
        <details>
          <summary className="min-h-11 cursor-pointer content-center underline underline-offset-4">
            {found.data.length - SHOWN} more
          </summary>
          <Rows kept={found.data.slice(SHOWN)} gone={gone} />
        </details>
      )}
      {say.isError && <p role="alert">{say.error.message}</p>}
    </section>
  );
}

function Rows({ kept, gone }: { kept: readonly Kept[]; gone: (k: Kept, answer: string) => void }) {
  return (
    <ul className="grid gap-1 lg:grid-cols-2">
      {kept.map((k) => (
        <li
          key={k.event}
          className={`flex flex-wrap items-center gap-2 border-l-[6px] bg-base-100 px-3 py-2 ${k.past ? "border-error" : "border-success"}`}
        >
          <span className="min-w-0 flex-1">
            <b>{k.name}</b>: {k.amount} {k.unit}, {k.what}.{" "}
            {k.past ? (
              <b className="text-error">Past its day ({day(k.until)}): discard it.</b>
            ) : (
              `Use by ${day(k.until)}.`
            )}
          </span>
          {!k.past && (
            <Button kind="small" aria-label={`Used: ${k.name}`} onClick={() => gone(k, "used")}>
              Used
            </Button>
          )}
          <Button kind="small" aria-label={`Discarded: ${k.name}`} onClick={() => gone(k, "discarded")}>
            Discarded
          </Button>
        </li>
      ))}
    </ul>
  );
}
