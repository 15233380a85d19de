export const THEME_COOKIE = 'bijou-theme';
export type Theme = 'daylight' | 'lamplight';

/** Changes the theme on the page and remembers it for a year. */
export function setTheme(theme: Theme): void {
  document.documentElement.dataset['theme'] = theme;
  document.cookie = `${THEME_COOKIE}=${theme}; path=/; max-age=31536000; samesite=strict`;
}

/** The theme that is showing, chosen or the system's. */
export function currentTheme(): Theme {
  const chosen = document.documentElement.dataset['theme'];
  if (chosen === 'daylight' || chosen === 'lamplight') return chosen;
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'lamplight' : 'daylight';
}
