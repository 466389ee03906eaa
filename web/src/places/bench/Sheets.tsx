import { Suspense } from "react";
import { useNavigate } from "react-router";
import type { Answered, AnswerView, Batter, BatterView } from "../../api/client";
import { useBench } from "../../app/BenchContext";
import { FileSheet } from "../../kit/FileSheet";
import { LedgerSheet } from "../../kit/LedgerSheet";
import { part } from "../../kit/part";
import { ReadPackSheet } from "../../kit/ReadPackSheet";
import { ShoppingSheet } from "../../kit/ShoppingSheet";
import { SizeSheet } from "../../kit/SizeSheet";
import { useTell } from "../../kit/Toast";
import type { BenchState } from "../../pure/bench";
import { CompareSheet } from "./CompareSheet";
import { SaveSheet } from "./SaveSheet";
import { SwapSheet } from "./SwapSheet";

const find = part(() => import("../../app/Find"));

/** The sheet that is open over the Bench. */
export type Open =
  | { what: "ledger"; key: string }
  | { what: "swap"; line: number }
  | { what: "pack"; id: string; name: string }
  | { what: "save" | "make" | "compare" | "open" | "file" | "size" | "shopping" };

type Props = {
  open: Open;
  state: BenchState;
  base: BatterView;
  after: BatterView | undefined;
  answer: AnswerView | undefined;
  edited: Batter | null;
  data: Answered<"AdaptationView"> | undefined;
  ready: boolean;
  suggestion: string;
  onChoose: (answer: number) => void;
  onLit: (key: string) => void;
  onClose: () => void;
};

/** Whatever sheet is open over the Bench: a ledger, a pack, another size, a swap, the answers side by side, saving. */
export function Sheets({ open, state, base, after, answer, edited, data, ready, suggestion, ...on }: Props) {
  const { act, undo } = useBench();
  const tell = useTell();
  const go = useNavigate();
  const close = on.onClose;
  switch (open.what) {
    case "ledger":
      return <LedgerSheet ledgerKey={open.key} before={base} after={after} onClose={close} />;
    case "open":
      return (
        <Suspense>
          <find.Part only="batter" onClose={close} />
        </Suspense>
      );
    case "pack":
      return <ReadPackSheet id={open.id} name={open.name} onClose={close} />;
    case "file":
      return (
        <FileSheet
          onClose={close}
          onLay={(name, batter) => {
            act({ type: "lay", name, batter });
            close();
            tell(`${name} is on the bench.`, undo);
          }}
        />
      );
    case "shopping":
      return (
        <ShoppingSheet
          title={state.name}
          lines={(after ?? base).lines}
          buy={answer && !edited ? new Set(answer.buy) : null}
          onClose={close}
        />
      );
    case "size":
      return (
        <SizeSheet
          title="Another size"
          batter={state.base}
          onTake={(batter, times) => {
            act({ type: "sized", batter });
            close();
            tell(`× ${times}.`, undo);
          }}
          onClose={close}
        />
      );
    case "swap": {
      const line = after?.lines[open.line];
      if (!after || !line) return null;
      return (
        <SwapSheet
          batter={after.batter}
          line={open.line}
          name={line.name}
          diets={state.diets}
          onTake={(swap) => {
            const from = answer?.batter.batter.lines[open.line]?.ingredient;
            if (from) act({ type: "swap", from, to: swap });
            on.onLit(swap.id);
          }}
          onClose={close}
        />
      );
    }
    case "compare":
      return data ? (
        <CompareSheet
          base={base}
          answers={data.answers}
          slots={data.slots}
          chosen={state.chosen}
          onChoose={on.onChoose}
          onClose={close}
        />
      ) : null;
    default:
      return (
        <SaveSheet
          name={state.name}
          batterId={state.batterId}
          parent={state.versionId}
          base={state.base}
          answer={after && answer ? (edited ?? answer.batter.batter) : null}
          diets={state.diets}
          ready={ready}
          suggestion={suggestion}
          make={open.what === "make"}
          onClose={close}
          onSaved={(version, first, started) => {
            close();
            if (first) act({ type: "saved", version: first });
            if (started) go(`/stove/${started}`);
            else if (open.what === "make") go(`/stove?make=${version.id}`);
            tell(`Saved as version ${version.number} of ${version.name}.`);
          }}
        />
      );
  }
}
