const KEY = "mutabilis-theme";
export type Theme = "system" | "day" | "dawn";

export function storedTheme(): Theme {
  const value = localStorage.getItem(KEY);
  return value === "day" || value === "dawn" ? value : "system";
}

/** Wear a theme. "system" leaves the choice to the machine, so no attribute may stand in its way. */
export function wear(theme: Theme): void {
  if (theme === "system") {
    delete document.documentElement.dataset.theme;
    localStorage.removeItem(KEY);
  } else {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem(KEY, theme);
  }
}
