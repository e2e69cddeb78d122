export type Theme = 'light' | 'dark'

const KEY = 'markpost.theme'

/** The maker's choice, else what the system asks for. */
export function chosenTheme(): Theme {
  const kept = localStorage.getItem(KEY)
  if (kept === 'light' || kept === 'dark') return kept
  return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light'
}

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset.bsTheme = theme
}

export function chooseTheme(theme: Theme): void {
  localStorage.setItem(KEY, theme)
  applyTheme(theme)
}
