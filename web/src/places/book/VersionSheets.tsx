import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { formatsQuery, versionQuery } from "../../api/queries";
import { freshId, useWrite } from "../../api/write";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { Sheet } from "../../kit/Sheet";
import { SizeSheet } from "../../kit/SizeSheet";
import { useTell } from "../../kit/Toast";
import { day } from "../../pure/format";

type Member = Answered<"Member">;

export function Rename({
  name,
  onName,
  onClose,
}: {
  name: string;
  onName: (name: string) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState(name);
  return (
    <Sheet title="Rename" onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim()) onName(text.trim());
        }}
      >
        <label>
          <span className="mb-1 block font-semibold">Name</span>
          <input
            data-first
            className="input w-full text-base"
            required
            maxLength={120}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        <Button type="submit" kind="strong" className="mt-4">
          Rename
        </Button>
      </form>
    </Sheet>
  );
}

export function MadeSheet({ version, onClose }: { version: Member; onClose: () => void }) {
  const [note, setNote] = useState("");
  const [id] = useState(freshId);
  const tell = useTell();
  const back = useWrite(
    (made_id: string) => got(api.DELETE("/api/made/{made_id}", { params: { path: { made_id } } })),
    { changes: "book" },
  );
  const keep = useWrite(
    (good: boolean) =>
      got(
        api.POST("/api/versions/{version_id}/made", {
          params: { path: { version_id: version.id } },
          body: { good, note, id },
        }),
      ),
    {
      changes: "book",
      done: (made) => {
        tell(made.good ? "Made, and good." : "Made, and not yet right.", () => back.mutate(made.id));
        onClose();
      },
    },
  );
  return (
    <Sheet title={`Version ${version.number}: how did it come out?`} onClose={onClose}>
      <p className="mb-3">Good twice, and it counts as proven.</p>
      <label className="block">
        <span className="mb-1 block font-semibold">A word on it</span>
        <input
          data-first
          className="input w-full text-base"
          maxLength={1000}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
      </label>
      {keep.isError && (
        <p role="alert" className="mt-2 text-error">
          {keep.error.message}
        </p>
      )}
      <p className="mt-4 flex gap-3">
        <Button kind="strong" disabled={keep.isPending} onClick={() => keep.mutate(true)}>
          Good
        </Button>
        <Button disabled={keep.isPending} onClick={() => keep.mutate(false)}>
          Not yet right
        </Button>
      </p>
      {version.made.length > 0 && (
        <>
          <h3 className="mt-5 mb-1 font-semibold">Made before</h3>
          <ul>
            {version.made.map((m) => (
              <li key={m.id} className="flex min-h-11 items-center gap-3 border-b border-base-300/60">
                {day(m.at)} <b>{m.good ? "good" : "not yet right"}</b> {m.note}
                <span className="ml-auto">
                  <Button
                    kind="small"
                    onClick={() => {
                      back.mutate(m.id);
                      onClose();
                    }}
                  >
                    Undo
                  </Button>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
    </Sheet>
  );
}

const FORMATS: Record<string, string> = {
  json: "Mutabilis JSON: the whole family, with everything",
  jsonld: "Recipe as JSON-LD (schema.org)",
  txt: "Plain text",
  md: "Markdown card",
  csv: "Lines as CSV",
  pdf: "Card as PDF",
};

export function Files({ version, onClose }: { version: Member; onClose: () => void }) {
  const formats = useQuery(formatsQuery);
  return (
    <Sheet title={`Save version ${version.number} as a file`} onClose={onClose}>
      <ul>
        {formats.data?.map((f) => (
          <li key={f.key} className="border-b border-base-300/60 py-2">
            <a
              href={`/api/versions/${version.id}/file?format=${f.key}`}
              download
              className="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
            >
              {FORMATS[f.key]}
            </a>
            <p className="text-sm">
              {f.not_carried.length > 0
                ? `Does not carry: ${f.not_carried.join("; ")}.`
                : "Carries all of it: what is read back is what was saved."}
            </p>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

/** A version in another size, laid on the Bench. */
export function Scaled({ version, onClose }: { version: Member; onClose: () => void }) {
  const { act } = useBench();
  const go = useNavigate();
  const tell = useTell();
  const kept = useQuery(versionQuery(version.id));
  return (
    <SizeSheet
      title={`Scale version ${version.number}`}
      batter={kept.data?.batter}
      onTake={(batter, times) => {
        if (!kept.data) return;
        act({ type: "open", version: { ...kept.data, batter }, diets: kept.data.diets });
        tell(`${kept.data.name}, × ${times}, is on the bench.`);
        go("/bench");
      }}
      onClose={onClose}
    />
  );
}
