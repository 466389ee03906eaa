type Member = { id: string; parent?: string | null };
export type Row<M> = { member: M; depth: number; lines: boolean[]; parent: boolean; children: boolean };

/** Depth first, children under their parents, each a step further in; a parent that is not here is no parent. `lines` tells for
 * each column left of the row whether a branch runs on past it. */
export function familyRows<M extends Member>(members: M[]): Row<M>[] {
  const here = new Set(members.map((m) => m.id));
  const children = new Map<string, M[]>();
  for (const m of members) {
    const parent = m.parent && here.has(m.parent) ? m.parent : "";
    children.set(parent, [...(children.get(parent) ?? []), m]);
  }
  const rows: Row<M>[] = [];
  const stack = (children.get("") ?? []).map((member) => ({ member, lines: [] as boolean[] })).reverse();
  while (stack.length > 0) {
    const { member, lines } = stack.pop()!;
    const mine = children.get(member.id) ?? [];
    rows.push({ member, depth: lines.length, lines, parent: lines.length > 0, children: mine.length > 0 });
    // A long line of only children would walk off the screen: it stays at a depth that can be read.
    const left = lines.length < 5 ? lines : lines.slice(0, 4);
    stack.push(...mine.map((child, n) => ({ member: child, lines: [...left, n < mine.length - 1] })).reverse());
  }
  return rows;
}
