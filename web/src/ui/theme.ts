const key = "ambivia-theme";

export type Theme = "light" | "dark";

/** The chosen theme, or the one that the device asks for. */
export function currentTheme(): Theme {
  const chosen = localStorage.getItem(key);
  if (chosen === "light" || chosen === "dark") return chosen;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

export function applyTheme(theme: Theme = currentTheme()) {
  document.documentElement.dataset.theme = theme;
}

export function chooseTheme(theme: Theme) {
  localStorage.setItem(key, theme);
  applyTheme(theme);
}
