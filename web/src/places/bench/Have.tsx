import { type ReactNode, useState } from "react";
import type { BatterView } from "../../api/client";
import { useBench } from "../../app/BenchContext";
import { Button } from "../../kit/Button";
import { SourceMeasures } from "../../kit/SourceMeasures";
import { AddLine } from "./AddLine";
import { FirstMinute } from "./FirstMinute";
import { Head } from "./Head";
import { keyOf, Rows } from "./Rows";
import { SetAside } from "./SetAside";
import { Shape } from "./Shape";
import type { Open } from "./Sheets";
import { Tool } from "./Tool";

type Props = {
  base: BatterView;
  rows: Parameters<typeof Rows>[0]["rows"];
  lit: string | null;
  onLight: (key: string | null) => void;
  marks: (id: string) => string;
  detail?: () => ReactNode;
  hidden: string; // the class that keeps it out of sight on a phone
  onOpen: (open: Open) => void;
};

/** What you have: its lines, what was set aside, and the field that takes more; on an empty Bench, the first minute. */
export function Have({ base, rows, lit, onLight, marks, detail, hidden, onOpen }: Props) {
  const { state, act } = useBench();
  const [example, setExample] = useState(""); // laid into the empty field, to be tried
  const empty = state.base.lines.length === 0;
  const remove = (line: number, key: string) => act({ type: "removeLine", line, key });
  return (
    <section
      aria-label="You have"
      className={`lg:row-span-3 lg:grid lg:grid-cols-[minmax(0,1fr)] lg:grid-rows-subgrid ${hidden}`}
    >
      <Head title="You have" batter={base} side="iron" />
      {empty ? <span /> : <Shape base={base} />}
      <div>
        <Rows
          rows={rows}
          side="iron"
          lit={lit}
          onLight={onLight}
          marks={marks}
          onGrams={(view, line, g) => act({ type: "baseGrams", line, grams: g, name: view.full_name })}
          detail={detail}
          typed={(at) => (state.base.lines.length === base.lines.length ? state.base.lines[at]?.grams : undefined)}
          onRemove={remove}
          unreadActs={(view, at, first) => (
            <span className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <Button
                kind={first ? "strong" : "plain"}
                onClick={() => {
                  onLight(keyOf(view, at));
                  setTimeout(() => document.querySelector<HTMLInputElement>("[data-mend]")?.focus());
                }}
              >
                Say what it is
              </Button>
              <Button onClick={() => remove(at, view.line.text)}>It is no food</Button>
            </span>
          )}
        />
        <SetAside lines={empty ? [] : base.lines} onRemove={remove} />
        {empty && <FirstMinute onTry={setExample} />}
        <AddLine
          key={empty ? example : "lines"}
          first={empty ? example : ""}
          tall={empty}
          measures={state.base}
          beside={
            empty && (
              <span className="mr-auto">
                <SourceMeasures value={state.base} onChange={(measures) => act({ type: "measures", measures })} />
              </span>
            )
          }
          onLines={(lines) => act({ type: "addLines", lines })}
          onRecipe={
            empty
              ? (name, batter) => {
                  const form = batter.form === "griddle" ? state.base.form : batter.form; // one chosen before stands
                  act({ type: "lay", name, batter: { ...batter, form } });
                }
              : undefined
          }
        >
          {empty && (
            <p className="flex w-full gap-2">
              <Tool onClick={() => onOpen({ what: "open" })}>From the Book…</Tool>
              <Tool onClick={() => onOpen({ what: "file" })}>From a file…</Tool>
            </p>
          )}
        </AddLine>
      </div>
    </section>
  );
}
