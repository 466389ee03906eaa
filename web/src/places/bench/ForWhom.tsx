import type { Start } from "../../api/client";
import { Button } from "../../kit/Button";

const FIRST = 7;

/** What is next once there is a batter: for whom it is to be. */
export function ForWhom({ start, onDiet }: { start: Start; onDiet: (key: string) => void }) {
  return (
    <>
      <p className="text-lg font-bold">Who cannot eat what?</p>
      <p>Touch a diet, and the batter that fits it stands here, in balance.</p>
      <p className="mt-2 flex flex-wrap gap-2">
        {start.known_diets.slice(0, FIRST).map((d) => (
          <Button key={d.key} onClick={() => onDiet(d.key)}>
            For {d.label.toLowerCase()} guests
          </Button>
        ))}
      </p>
    </>
  );
}
