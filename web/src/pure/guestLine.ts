type Guest = {
  name: string;
  at: string;
  needs: readonly { what: string; grade?: "allergy" | "intolerance" | "preference" }[];
  pieces: number;
  form?: string | null;
  table: string;
};
const FORMS: Record<string, string> = { griddle: "cakes", waffle: "waffles", crepe: "crêpes", tray: "squares" };
const quoted = (name: string) => `"${name.replace(/["“”]/g, "'")}"`;

/** A guest as a line that is read as this guest again: names in quotes, so that none is taken for a need or for two people. */
export function guestLine({ name, at, needs, pieces, form, table }: Guest): string {
  const said = needs.map(({ what, grade = "allergy" }) => {
    const words = what.replaceAll("_", " ");
    return grade === "preference" ? `${words} by choice` : `${words} ${grade}`;
  });
  const parts = [quoted(name), at, ...said, `${pieces} ${FORMS[form ?? ""] ?? "pieces"}`];
  return [...parts, ...(table ? [`table ${quoted(table)}`] : [])].join(", ");
}
