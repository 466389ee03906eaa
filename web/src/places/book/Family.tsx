import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { day } from "../../parts/format";
import { Sheet } from "../../parts/Sheet";
import { useTell } from "../../parts/told";
import { VerdictShape } from "../../parts/Verdict";
import { freshId, useWrite } from "../../parts/write";
import { useBench } from "../bench/BenchContext";
import { CompareTwo } from "./CompareTwo";
import { ScaleSheet } from "./ScaleSheet";
import { Standing } from "./Standing";

type Member = Answered<"Member">;
type Family = Answered<"Family">;
type Open =
  | { what: "scale" | "files" | "made"; version: Member }
  | { what: "compare"; left: string; right: string }
  | { what: "rename" };
const STEP = 1.6; // rem, a generation further in
const NODE = "1.4rem"; // where a version hangs on its branch
const WORDS = { fits: "fits", conflicts: "conflicts", cannot_vouch: "cannot vouch" };

/** A batter's family: every version beneath the one it came from, with what changed, for whom, and how it came out. */
export function FamilyTree({ id }: { id: string }) {
  const family = useQuery({
    queryKey: ["family", id],
    queryFn: () => got(api.GET("/api/batters/{batter_id}", { params: { path: { batter_id: id } } })),
  });
  if (family.isError) return <p role="alert">{family.error.message}</p>;
  if (!family.data) return <p>Opening the family…</p>;
  return <Tree family={family.data} />;
}

function Tree({ family }: { family: Family }) {
  const [open, setOpen] = useState<Open | null>(null);
  // The first of two versions to compare stands in the address, so that the second may be of another family.
  const [query, setQuery] = useSearchParams();
  const beside = query.get("beside");
  const setBeside = (id: string | null) =>
    setQuery(
      (old) => {
        if (id) old.set("beside", id);
        else old.delete("beside");
        return old;
      },
      { replace: true },
    );
  const bench = useBench();
  const go = useNavigate();
  const tell = useTell();
  const stale = [["book"], ["family"]];
  const change = useWrite(
    (given: { name?: string; archived?: boolean }) =>
      got(api.PATCH("/api/batters/{batter_id}", { params: { path: { batter_id: family.id } }, body: given })),
    { stale },
  );
  const duplicate = useWrite(
    (version_id: string) => got(api.POST("/api/versions/{version_id}/duplicate", { params: { path: { version_id } } })),
    {
      stale,
      done: (v) => {
        tell(`${v.name} is in the Book.`);
        go(`/book/${v.batter_id}`);
      },
    },
  );
  const lay = useWrite(
    (version_id: string) => got(api.GET("/api/versions/{version_id}", { params: { path: { version_id } } })),
    {
      done: (v) => {
        bench.open(v);
        go("/bench");
      },
    },
  );
  const rows = layout(family.versions);
  const away = family.archived !== null;
  return (
    <section aria-label={`Family of ${family.name}`}>
      <header className="mb-2 flex flex-wrap items-center gap-2 border-b-2 border-secondary pb-1">
        <Link to="/book" className="min-h-11 content-center pr-2 underline underline-offset-4 lg:hidden">
          All batters
        </Link>
        <h2 className="min-w-0 text-xl font-bold break-words">{family.name}</h2>
        {away && <span className="font-semibold text-warning">put away</span>}
        <span className="ml-auto flex flex-wrap gap-1.5">
          <Do onClick={() => setOpen({ what: "rename" })}>Rename…</Do>
          <Do
            onClick={() => {
              change.mutate({ archived: !away });
              tell(away ? `${family.name} is back on the shelf.` : `${family.name} is put away, not lost.`, () =>
                change.mutate({ archived: away }),
              );
            }}
          >
            {away ? "Take out again" : "Put away"}
          </Do>
        </span>
      </header>
      <ol className="relative" aria-label="Versions">
        {rows.map(({ member, depth, lines, parent: hasParent, children: hasChildren }) => (
          <li key={member.id} className="relative pb-1" style={{ paddingLeft: `${STEP * (depth + 1)}rem` }}>
            <Branch
              depth={depth}
              lines={lines}
              hasParent={hasParent}
              hasChildren={hasChildren}
              first={!member.parent}
            />
            <div className={`bg-base-100 px-3 py-1.5 ${beside === member.id ? "ring-2 ring-base-content/50" : ""}`}>
              <p className="flex flex-wrap items-baseline gap-x-3">
                <b>Version {member.number}</b>
                <span className="text-sm">{day(member.saved)}</span>
                {member.badges.map((b) => (
                  <span
                    key={b.diet}
                    className={`inline-flex items-center gap-1 text-sm font-semibold ${b.verdict === "fits" ? "text-success" : b.verdict === "conflicts" ? "text-error" : "text-warning"}`}
                  >
                    <VerdictShape verdict={b.verdict} />
                    {WORDS[b.verdict]} {b.label.toLowerCase()}
                  </span>
                ))}
                <span className="ml-auto">
                  <Standing standing={member.standing} />
                </span>
              </p>
              <p className="text-sm">
                {member.parent ? (
                  <span className="text-primary">{member.changed}</span>
                ) : (
                  <span className="text-secondary">the batter as it was written down</span>
                )}
                {member.note && <span> · {member.note}</span>}
              </p>
              <p className="mt-1 flex flex-wrap gap-1">
                <Do onClick={() => lay.mutate(member.id)}>On the Bench</Do>
                <Do onClick={() => go(`/stove?make=${member.id}`)}>Make it</Do>
                <Do onClick={() => go(`/card/${member.id}`)}>Card</Do>
                <Do onClick={() => setOpen({ what: "scale", version: member })}>Scale…</Do>
                <Do
                  on={beside === member.id}
                  onClick={() => {
                    if (beside && beside !== member.id) {
                      setOpen({ what: "compare", left: beside, right: member.id });
                      setBeside(null);
                    } else setBeside(beside ? null : member.id);
                  }}
                >
                  {beside === member.id ? "Compare with…" : beside ? "…with this" : "Compare"}
                </Do>
                <Do onClick={() => setOpen({ what: "made", version: member })}>Made it…</Do>
                <Do onClick={() => duplicate.mutate(member.id)}>Duplicate</Do>
                <Do onClick={() => setOpen({ what: "files", version: member })}>Save as…</Do>
              </p>
            </div>
          </li>
        ))}
      </ol>
      {(change.isError || duplicate.isError || lay.isError) && (
        <p role="alert" className="mt-2 text-error">
          {(change.error ?? duplicate.error ?? lay.error)?.message}
        </p>
      )}
      {open?.what === "compare" && <CompareTwo left={open.left} right={open.right} onClose={() => setOpen(null)} />}
      {open?.what === "scale" && (
        <ScaleSheet version={open.version.id} number={open.version.number} onClose={() => setOpen(null)} />
      )}
      {open?.what === "files" && <Files version={open.version} onClose={() => setOpen(null)} />}
      {open?.what === "made" && <MadeSheet version={open.version} onClose={() => setOpen(null)} />}
      {open?.what === "rename" && (
        <Rename
          name={family.name}
          onName={(name) => {
            change.mutate({ name });
            tell(`Now called ${name}.`, () => change.mutate({ name: family.name }));
            setOpen(null);
          }}
          onClose={() => setOpen(null)}
        />
      )}
    </section>
  );
}

type Row = { member: Member; depth: number; lines: boolean[]; parent: boolean; children: boolean };

/** Depth first, children under their parents, each a step further in; a parent that is not here is no parent. `lines` tells for
 * each column left of the row whether a branch runs on past it. */
function layout(members: Member[]): Row[] {
  const here = new Set(members.map((m) => m.id));
  const children = new Map<string, Member[]>();
  for (const m of members) {
    const parent = m.parent && here.has(m.parent) ? m.parent : "";
    children.set(parent, [...(children.get(parent) ?? []), m]);
  }
  const rows: Row[] = [];
  const stack = (children.get("") ?? []).map((member) => ({ member, lines: [] as boolean[] })).reverse();
  while (stack.length > 0) {
    const { member, lines } = stack.pop()!;
    const mine = children.get(member.id) ?? [];
    rows.push({ member, depth: lines.length, lines, parent: lines.length > 0, children: mine.length > 0 });
    // A long line of only children would walk off the screen: it stays at a depth that can be read.
    const left = lines.length < 5 ? lines : lines.slice(0, 4);
    stack.push(...mine.map((child, n) => ({ member: child, lines: [...left, n < mine.length - 1] })).reverse());
  }
  return rows;
}

type BranchProps = { depth: number; lines: boolean[]; hasParent: boolean; hasChildren: boolean; first: boolean };

/** The branch beside a version: from its parent above, and on to its children beneath. */
function Branch({ depth, lines, hasParent, hasChildren, first }: BranchProps) {
  const at = (column: number) => `${STEP * column + STEP / 2}rem`;
  return (
    <span aria-hidden="true">
      {lines.map((on, column) =>
        on || column === depth - 1 ? (
          <span
            key={column}
            className="absolute top-0 w-0.5 bg-primary"
            style={{ left: at(column), height: on ? "100%" : NODE }}
          />
        ) : null,
      )}
      {hasParent && (
        <span className="absolute h-0.5 bg-primary" style={{ left: at(depth - 1), top: NODE, width: `${STEP}rem` }} />
      )}
      {hasChildren && <span className="absolute bottom-0 w-0.5 bg-primary" style={{ left: at(depth), top: NODE }} />}
      <span
        className={`absolute size-3 -translate-x-[5px] -translate-y-[5px] ${first ? "rounded-[2px] bg-secondary" : "rounded-full bg-primary"}`}
        style={{ left: at(depth), top: NODE }}
      />
    </span>
  );
}

export function Do({ children, on, onClick }: { children: React.ReactNode; on?: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`min-h-9 rounded-field border px-2.5 text-sm pointer-coarse:min-h-11 ${on ? "border-neutral bg-neutral text-neutral-content" : "border-base-300 hover:border-base-content"}`}
    >
      {children}
    </button>
  );
}

function Rename({ name, onName, onClose }: { name: string; onName: (name: string) => void; onClose: () => void }) {
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
        <button type="submit" className="btn btn-accent mt-4 min-h-11 px-6 text-base">
          Rename
        </button>
      </form>
    </Sheet>
  );
}

function MadeSheet({ version, onClose }: { version: Member; onClose: () => void }) {
  const [note, setNote] = useState("");
  const [id] = useState(freshId);
  const tell = useTell();
  const stale = [["book"], ["family"]];
  const back = useWrite(
    (made_id: string) => got(api.DELETE("/api/made/{made_id}", { params: { path: { made_id } } })),
    { stale },
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
      stale,
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
        <button
          type="button"
          className="btn btn-accent min-h-11 px-6 text-base"
          disabled={keep.isPending}
          onClick={() => keep.mutate(true)}
        >
          Good
        </button>
        <button
          type="button"
          className="min-h-11 rounded-field border border-base-300 px-6"
          disabled={keep.isPending}
          onClick={() => keep.mutate(false)}
        >
          Not yet right
        </button>
      </p>
      {version.made.length > 0 && (
        <>
          <h3 className="mt-5 mb-1 font-semibold">Made before</h3>
          <ul>
            {version.made.map((m) => (
              <li key={m.id} className="flex min-h-11 items-center gap-3 border-b border-base-300/60">
                {day(m.at)} <b>{m.good ? "good" : "not yet right"}</b> {m.note}
                <span className="ml-auto">
                  <Do
                    onClick={() => {
                      back.mutate(m.id);
                      onClose();
                    }}
                  >
                    Take back
                  </Do>
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

function Files({ version, onClose }: { version: Member; onClose: () => void }) {
  const formats = useQuery({ queryKey: ["formats"], queryFn: () => got(api.GET("/api/formats")) });
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
