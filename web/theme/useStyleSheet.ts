import { useLayoutEffect } from 'react'

/** Puts a style on the page while a component is there, as a sheet of its own: the content policy lets in no other. */
export function useStyleSheet(text: string): void {
  useLayoutEffect(() => {
    const sheet = new CSSStyleSheet()
    sheet.replaceSync(text)
    document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet]
    return () => {
      document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== sheet)
    }
  }, [text])
}
