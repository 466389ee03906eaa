import { useState } from "react";
import type { BatchView } from "../../api/queue";
import { Acts, Button } from "../../kit/Button";
import { Look } from "../../kit/Look";
import { useInHand } from "./useBatch";

type Load = BatchView["cooking"]["loads"][number];
type Colour = NonNullable<Load["colour"]>;
type Inside = NonNullable<Load["inside"]>;
const COLOURS: readonly (readonly [Colour, string])[] = [
  ["pale", "pale"],
  ["golden", "golden"],
  ["dark", "dark"],
  ["burnt", "burnt"],
];
const INSIDES: readonly (readonly [Inside, string])[] = [
  ["raw", "raw"],
  ["just", "just done"],
  ["dry", "dry"],
];

/** The test piece, looked at beneath and cut: it says whether the heat is right. */
export function JudgeTest({ load }: { load: Load }) {
  const { say } = useInHand();
  const [colour, setColour] = useState<Colour | null>(null);
  const [inside, setInside] = useState<Inside | null>(null);
  return (
    <>
      <h3 className="text-3xl font-bold">Look at the test piece, and cut it</h3>
      <fieldset className="mt-4 flex flex-wrap gap-2">
        <legend className="float-left mr-3 w-28 text-xl">Beneath it is</legend>
        {COLOURS.map(([key, words]) => (
          <Button
            kind="large"
            className="inline-flex items-center"
            key={key}
            pressed={colour === key}
            onClick={() => setColour(key)}
          >
            <Look of={`beneath ${key}`} className="mr-2 h-10 w-14" />
            {words}
          </Button>
        ))}
      </fieldset>
      <fieldset className="mt-3 flex flex-wrap gap-2">
        <legend className="float-left mr-3 w-28 text-xl">Inside it is</legend>
        {INSIDES.map(([key, words]) => (
          <Button
            kind="large"
            className="inline-flex items-center"
            key={key}
            pressed={inside === key}
            onClick={() => setInside(key)}
          >
            <Look of={`inside ${key}`} className="mr-2 h-10 w-14" />
            {words}
          </Button>
        ))}
      </fieldset>
      <Acts>
        <Button
          kind="next"
          disabled={colour === null || inside === null}
          onClick={() => colour && inside && say({ kind: "test_judged", load: load.n, colour, inside })}
        >
          Judge the heat
        </Button>
      </Acts>
    </>
  );
}
