import { useState } from "react";
import { Button } from "../../kit/Button";
import { Sheet } from "../../kit/Sheet";

const WHEN = [
  ["all", "in all of them"],
  ["first", "in the first"],
  ["later", "in the later ones"],
  ["some", "in some"],
] as const;

/** Which faults there were, and in which loads. */
export function FaultsSheet({
  faults,
  was,
  when,
  onClose,
  onSay,
}: {
  faults: Record<string, string>;
  was: readonly string[];
  when: string | null;
  onClose: () => void;
  onSay: (faults: string[], when: string | null) => void;
}) {
  const [chosen, setChosen] = useState<string[]>([...was]);
  const [seen, setSeen] = useState<string | null>(when);
  return (
    <Sheet title="What was at fault?" onClose={onClose}>
      <div className="flex flex-wrap gap-2">
        {Object.entries(faults).map(([key, words]) => (
          <Button
            key={key}
            pressed={chosen.includes(key)}
            onClick={() => setChosen((c) => (c.includes(key) ? c.filter((x) => x !== key) : [...c, key]))}
          >
            {words}
          </Button>
        ))}
      </div>
      <fieldset className="mt-4 flex flex-wrap items-center gap-2">
        <legend className="font-semibold">Which pieces showed it?</legend>
        {WHEN.map(([key, words]) => (
          <Button key={key} pressed={seen === key} onClick={() => setSeen(seen === key ? null : key)}>
            {words}
          </Button>
        ))}
      </fieldset>
      <Button kind="strong" className="mt-4" onClick={() => onSay(chosen, seen)}>
        Keep
      </Button>
    </Sheet>
  );
}

/** What somebody says of it afterwards. */
export function RemarkSheet({ onClose, onSay }: { onClose: () => void; onSay: (who: string, text: string) => void }) {
  const [who, setWho] = useState("");
  const [text, setText] = useState("");
  return (
    <Sheet title="A remark" onClose={onClose}>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim()) onSay(who.trim(), text.trim());
        }}
      >
        <label>
          Who says it (may stay empty)
          <input
            value={who}
            maxLength={80}
            onChange={(e) => setWho(e.target.value)}
            className="min-h-11 w-full rounded-field border border-base-content/50 bg-base-100 px-3"
          />
        </label>
        <label>
          What was said
          <textarea
            data-first
            value={text}
            maxLength={2000}
            rows={3}
            onChange={(e) => setText(e.target.value)}
            className="w-full rounded-field border border-base-content/50 bg-base-100 p-2"
          />
        </label>
        <Button kind="strong" type="submit">
          Keep
        </Button>
      </form>
    </Sheet>
  );
}
