const RULES = new Intl.PluralRules("en");

/** A count with its words, as the language counts: whole sentences, never a letter put on. `#` stands for the count. */
export function counted(n: number, forms: Partial<Record<Intl.LDMLPluralRule, string>> & { other: string }): string {
  return (forms[RULES.select(n)] ?? forms.other).replace("#", `${n}`);
}
