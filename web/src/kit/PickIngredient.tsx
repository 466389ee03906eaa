import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { pantryQuery } from "../api/queries";
import { Combobox } from "./Combobox";
import { useSettled } from "./settled";

type Props = { label: string; except?: string[]; autoFocus?: boolean; onPick: (id: string) => void };

/** An ingredient found by its first letters. */
export default function PickIngredient({ label, except = [], autoFocus, onPick }: Props) {
  const [text, setText] = useState("");
  const asked = useSettled(text.trim(), 120);
  const found = useQuery({ ...pantryQuery({ q: asked, limit: 6 }), enabled: asked.length > 1 });
  const items = asked.length > 1 ? (found.data?.items ?? []) : [];
  return (
    <Combobox
      label={label}
      placeholder="an ingredient"
      autoFocus={autoFocus}
      text={text}
      onText={setText}
      busy={text.trim() !== asked || found.isFetching}
      choices={items.filter((i) => !except.includes(i.id)).map((i) => ({ key: i.id, name: i.name }))}
      onTake={(choice) => {
        onPick(choice.key);
        setText("");
      }}
    />
  );
}
