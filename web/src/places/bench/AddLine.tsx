import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type BatterLine, got } from "../../api/client";

/** Add lines as a cook writes them, one or a whole list pasted in. What cannot be read is kept and marked. */
export function AddLine({ onLines, tall }: { onLines: (lines: BatterLine[]) => void; tall: boolean }) {
  const [text, setText] = useState("");
  const read = useMutation({
    mutationFn: (wanted: string) => got(api.POST("/api/read", { body: { text: wanted } })),
    onSuccess: (lines) => {
      if (lines.length > 0) {
        onLines(lines);
        setText("");
      }
    },
  });
  return (
    <form
      className="mt-1 flex gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) read.mutate(text);
      }}
    >
      <textarea
        rows={tall ? 9 : 1}
        maxLength={100_000}
        aria-label="Add a line"
        placeholder={
          tall ? "1 1/2 cups plain flour\n2 tsp baking powder\n300 ml milk\n2 eggs" : "add a line: 2 tbsp honey"
        }
        className="min-h-11 min-w-0 flex-1 resize-none rounded-field border border-base-300 bg-transparent px-3 py-2 placeholder:text-base-content/70"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && !event.shiftKey && !(tall && text === "")) {
            event.preventDefault();
            event.currentTarget.form?.requestSubmit();
          }
        }}
      />
      <button
        type="submit"
        disabled={read.isPending || !text.trim()}
        className="min-h-11 rounded-field border border-base-300 bg-base-100 px-4 disabled:opacity-60"
      >
        Add
      </button>
      {read.isError && (
        <p role="alert" className="text-error">
          {read.error.message}
        </p>
      )}
    </form>
  );
}
