const WHO = "mutabilis-who";

/** Who last read a pack at this screen, so that the name is typed once; "" where nobody has. */
export function knownReader(): string {
  return localStorage.getItem(WHO) ?? "";
}

export function rememberReader(name: string): void {
  localStorage.setItem(WHO, name);
}
