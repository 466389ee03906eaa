import type { BatchView } from "../../api/queue";
import { useInHand } from "./useBatch";

/** What is done on the surface at this moment of a load, as the plan says it. */
export function PanSteps({ when }: { when: BatchView["cooking"]["pan_steps"][number]["when"] }) {
  const { view } = useInHand();
  return view.cooking.pan_steps
    .filter((s) => s.when === when)
    .map((s) => (
      <p key={s.key} className="mt-3 border-l-8 border-primary bg-base-100 px-4 py-2 text-xl">
        <b>{s.title}:</b> {s.text}
      </p>
    ));
}
