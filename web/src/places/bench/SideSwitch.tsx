import type { BatterView } from "../../api/client";
import { useNumbers } from "../../kit/numbers";

type Side = "have" | "make";
type Props = { side: Side; base: BatterView; after: BatterView | undefined; onSide: (side: Side) => void };

/** On a phone: which of the two batters is in sight. It stays at the top while the lines scroll under it. */
export function SideSwitch({ side, base, after, onSide }: Props) {
  const { whole } = useNumbers();
  const words = (b: BatterView | undefined) =>
    b && b.batter_g > 0
      ? `${whole(b.batter_g)} g${b.hydration_pct === null ? "" : `, ${whole(b.hydration_pct)} %`}`
      : " ";
  const one = (key: Side, title: string, batter: BatterView | undefined, on: string) => (
    <button
      type="button"
      aria-pressed={side === key}
      onClick={() => onSide(key)}
      className={`min-h-12 leading-tight ${side === key ? on : "bg-base-100"}`}
    >
      <b className="block text-lg">{title}</b>
      <span className="block text-sm">{words(batter)}</span>
    </button>
  );
  return (
    <fieldset
      aria-label="Which batter is in sight"
      className="sticky top-0 z-10 min-w-0 -mx-4 mt-2 grid grid-cols-2 border-y border-base-300 sm:-mx-6 lg:hidden"
    >
      {one("have", "Have", base, "bg-secondary text-secondary-content")}
      {one("make", "Make", after, "bg-primary text-primary-content")}
    </fieldset>
  );
}
