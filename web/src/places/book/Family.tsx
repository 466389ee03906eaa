import { useQuery } from "@tanstack/react-query";
import { type SyntheticEvent, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { type Answered, api, got } from "../../api/client";
import { familyQuery } from "../../api/queries";
import { useWrite } from "../../api/write";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { useTell } from "../../kit/Toast";
import { VerdictShape, verdictWords } from "../../kit/Verdict";
import { familyRows } from "../../pure/family";
import { day } from "../../pure/format";
import { CompareTwo } from "./CompareTwo";
import { MixSheet } from "./MixSheet";
import { Standing } from "./Standing";
import { Files, MadeSheet, Rename, Scaled } from "./VersionSheets";

type Member = Answered<"Member">;
type Family = Answered<"Family">;
type Open =
  | { what: "scale" | "files" | "made" | "mix"; version: Member }
  | { what: "compare"; left: string; right: string }
  | { what: "rename" };
const STEP = 1.6; // rem, a generation further in

/** A batter's family: every version beneath the one it came from, with what changed, for whom, and how it came out. */
export function FamilyTree({ id }: { id: string }) {
  const family = useQuery(familyQuery(id));
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
  const change = useWrite(
    (given: { name?: string; archived?: boolean }) =>
      got(api.PATCH("/api/batters/{batter_id}", { params: { path: { batter_id: family.id } }, body: given })),
    { changes: "book" },
  );
  const duplicate = useWrite(
    (version_id: string) => got(api.POST("/api/versions/{version_id}/duplicate", { params: { path: { version_id } } })),
    {
      changes: "book",
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
  const rows = familyRows(family.versions);
  const away = family.archived !== null;
  return (
    <section aria-label={`Family of ${family.name}`}>
      <header className="mb-2 flex flex-wrap items-center gap-2 border-b-2 border-secondary pb-1">
        <Link to="/book" className="min-h-11 content-center pr-2 underline underline-offset-4 lg:hidden">
          All batters
        </Link>
        <h2 className="min-w-0 text-xl font-bold break-words">{family.name}</h2>
        {away && <span className="font-semibold text-warning">archived</span>}
        <span className="ml-auto flex flex-wrap gap-1.5">
          <Button kind="small" onClick={() => setOpen({ what: "rename" })}>
            Rename…
          </Button>
          <Button
            kind="small"
            onClick={() => {
              change.mutate({ archived: !away });
              tell(away ? `${family.name} is back on the shelf.` : `${family.name} is archived, not lost.`, () =>
                change.mutate({ archived: away }),
              );
            }}
          >
            {away ? "Take out of the archive" : "Archive"}
          </Button>
        </span>
      </header>
      <ol className="relative" aria-label="Versions">
        {rows.map(({ member, depth, lines, parent: hasParent }) => (
          <li key={member.id} className="relative pb-1" style={{ paddingLeft: `${STEP * (depth + 1)}rem` }}>
            <Branch depth={depth} lines={lines} hasParent={hasParent} first={!member.parent} />
            <div className={`bg-base-100 px-3 py-1.5 ${beside === member.id ? "ring-2 ring-base-content/50" : ""}`}>
              {member.photo && (
                <img
                  src={`/api/photos/${member.photo}.jpg?small=true`}
                  alt={`How version ${member.number} came out`}
                  className="float-right ml-3 h-20 w-auto rounded-field"
                />
              )}
              <p className="flex flex-wrap items-baseline gap-x-3">
                <b>Version {member.number}</b>
                <span className="text-sm">{day(member.saved)}</span>
                {member.badges.map((b) => (
                  <span
                    key={b.diet}
                    className={`inline-flex items-center gap-1 text-sm font-semibold ${b.verdict === "fits" ? "text-success" : b.verdict === "conflicts" ? "text-error" : "text-warning"}`}
                  >
                    <VerdictShape verdict={b.verdict} />
                    {verdictWords(b.verdict, b.label.toLowerCase())}
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
                <Button kind="small" onClick={() => lay.mutate(member.id)}>
                  On the Bench
                </Button>
                <Button kind="small" onClick={() => go(`/stove?make=${member.id}`)}>
                  Make it
                </Button>
                <Button kind="small" onClick={() => go(`/card/${member.id}`)}>
                  Card
                </Button>
                <details className="relative" onToggle={closeOthers}>
                  <summary className="inline-flex min-h-9 cursor-pointer list-none items-center rounded-field border border-base-300 px-2.5 text-sm hover:border-base-content pointer-coarse:min-h-11">
                    More…
                  </summary>
                  {/* biome-ignore lint/a11y/noStaticElementInteractions: it only closes behind an act that was taken */}
                  {/* biome-ignore lint/a11y/useKeyWithClickEvents: a key on one of its buttons is a click */}
                  <span
                    className="absolute left-0 z-20 mt-1 flex w-44 flex-col gap-1 rounded-box border border-base-300 bg-base-100 p-2 shadow-lg max-sm:right-0 max-sm:left-auto [&>button]:text-left"
                    onClick={(event) => event.currentTarget.closest("details")?.removeAttribute("open")}
                  >
                    <Button kind="small" onClick={() => setOpen({ what: "scale", version: member })}>
                      Scale…
                    </Button>
                    <Button kind="small" onClick={() => setOpen({ what: "mix", version: member })}>
                      Dry mix…
                    </Button>
                    <Button
                      kind="small"
                      pressed={beside === member.id}
                      onClick={() => {
                        if (beside && beside !== member.id) {
                          setOpen({ what: "compare", left: beside, right: member.id });
                          setBeside(null);
                        } else setBeside(beside ? null : member.id);
                      }}
                    >
                      {beside === member.id ? "Compare with…" : beside ? "…with this" : "Compare"}
                    </Button>
                    <Button kind="small" onClick={() => setOpen({ what: "made", version: member })}>
                      Made it…
                    </Button>
                    <Button kind="small" onClick={() => duplicate.mutate(member.id)}>
                      Duplicate
                    </Button>
                    <Button kind="small" onClick={() => setOpen({ what: "files", version: member })}>
                      Save as…
                    </Button>
                  </span>
                </details>
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
      {open?.what === "scale" && <Scaled version={open.version} onClose={() => setOpen(null)} />}
      {open?.what === "mix" && (
        <MixSheet version={open.version.id} number={open.version.number} onClose={() => setOpen(null)} />
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

type BranchProps = { depth: number; lines: boolean[]; hasParent: boolean; first: boolean };

/** The branch beside a version: from its parent above, and on to its children beneath. */
/** From its parent to a version a ribbon of batter runs down and in, as on the Bench from what was to what is: iron from the first, bilberry
 * from there. */
function Branch({ depth, lines, hasParent, first }: BranchProps) {
  const at = (column: number) => `${STEP * column + STEP / 2 - 0.2}rem`;
  const width = "0.4rem";
  return (
    <span aria-hidden="true">
      {lines.map((on, column) =>
        on ? (
          <span key={column} className="absolute top-0 h-full bg-primary/30" style={{ left: at(column), width }} />
        ) : null,
      )}
      {hasParent && (
        <svg
          viewBox="0 0 40 40"
          preserveAspectRatio="none"
          aria-hidden="true"
          className="absolute top-0 text-primary"
          style={{ left: at(depth - 1), width: `${STEP}rem`, height: "2.4rem" }}
        >
          <path d="M0 0h10C10 22 18 26 40 26v10C12 36 0 26 0 0z" fill="currentColor" opacity="0.3" />
        </svg>
      )}
      <span
        className={`absolute top-[0.9rem] h-[calc(100%-0.9rem)] ${first ? "bg-secondary" : "bg-primary"}`}
        style={{ left: at(depth), width, opacity: first ? 0.9 : 0.75 }}
      />
    </span>
  );
}

/** One list of acts is open at a time. */
function closeOthers(event: SyntheticEvent<HTMLDetailsElement>) {
  const here = event.currentTarget;
  if (!here.open) return;
  for (const other of document.querySelectorAll<HTMLDetailsElement>("ol details[open]"))
    if (other !== here) other.open = false;
}
