import { type FormEvent, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { problemText, useSignInMutation } from '../store/api.ts'
import { Brand } from './Brand.tsx'

/** Who comes from elsewhere says the phrase that the server has printed. */
export function SignIn() {
  const [phrase, setPhrase] = useState('')
  const [signIn, { error, isLoading }] = useSignInMutation()
  const send = async (event: FormEvent): Promise<void> => {
    event.preventDefault()
    const done = await signIn(phrase)
    // Everything is asked for anew, by who one is now.
    if (!done.error) location.reload()
  }
  return (
    <>
      <header className="top">
        <Brand />
      </header>
      <main className="home sign-in" id="main">
        <h1>Who is there?</h1>
        <p className="soft">
          These plans are on another machine. Say the phrase that was printed when it was started: five words, with or
          without lines between them.
        </p>
        <Form onSubmit={(event) => void send(event)}>
          <Form.Control
            value={phrase}
            onChange={(event) => setPhrase(event.target.value)}
            aria-label="Pass phrase"
            autoComplete="current-password"
            autoCapitalize="none"
            spellCheck={false}
          />
          <Button type="submit" variant="dark" disabled={phrase.trim() === '' || isLoading}>
            Come in
          </Button>
        </Form>
        {error && <p role="alert">{problemText(error)}</p>}
      </main>
    </>
  )
}
