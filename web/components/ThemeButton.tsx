import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { chooseTheme, chosenTheme } from '../theme/theme.ts'

export function ThemeButton() {
  const [theme, setTheme] = useState(chosenTheme)
  const other = theme === 'light' ? 'dark' : 'light'
  return (
    <Button
      size="sm"
      variant="outline-dark"
      aria-label={`Switch to the ${other} theme`}
      title={`Switch to the ${other} theme`}
      onClick={() => {
        chooseTheme(other)
        setTheme(other)
      }}
    >
      {theme === 'light' ? '☾' : '☀'}
    </Button>
  )
}
