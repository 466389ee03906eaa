/** Who cooks at this device: told once, and put down with each batch that is started here. */
const KEY = "mutabilis.cook";

export function cookHere(): string {
  try {
    return localStorage.getItem(KEY) ?? "";
  } catch {
    return ""; // a browser that keeps nothing is asked each time
  }
}

export function keepCook(name: string): void {
  try {
    if (name) localStorage.setItem(KEY, name);
    else localStorage.removeItem(KEY);
  } catch {
    // nothing is kept, and nothing is lost
  }
}
