import { useEffect, useState } from 'react'
import { Button } from 'react-bootstrap'
import { answerEdits, type Question } from '../../core/advice/questions.ts'
import { useDerived } from '../store/derived.ts'
import { editLate } from '../store/desk.ts'
import { answerOf } from '../store/useSearch.ts'
import type { SearchClient } from '../workers/search.ts'
import { Explained } from './words.tsx'

const NEVER = 'markpost.questions'

/** What only the maker knows, after the rest was placed: the answer that was taken is pressed, another one rewires. */
export function Questions({ client }: { readonly client: SearchClient }) {
  const { wiring } = useDerived()
  const [found, setFound] = useState<{ readonly plan: typeof wiring.plan; readonly questions: readonly Question[] }>()
  const [never, setNever] = useState(() => localStorage.getItem(NEVER) === 'never')
  const { plan } = wiring
  useEffect(() => {
    if (never) return
    let left = false
    void answerOf(client.questions(plan)).then((questions) => {
      if (!left && questions) setFound({ plan, questions })
    })
    return () => {
      left = true
    }
  }, [client, plan, never])
  if (never || !found || found.questions.length === 0) return null
  return (
    <section className="questions" aria-label="Questions">
      {found.questions.map((question) => (
        <div key={question.id}>
          <b>{question.text}</b>
          <span className="soft">
            {' '}
            <Explained text={question.why} />
          </span>
          <div className="answers">
            {question.answers.map((answer, index) => (
              <Button
                key={answer.title}
                size="sm"
                variant={index === 0 ? 'dark' : 'outline-dark'}
                title={index === 0 ? 'The plan goes by this; press to say so, and it is not asked again' : undefined}
                onClick={() => editLate(found.plan, answerEdits(question, answer), `${question.text} ${answer.title}`)}
              >
                {answer.title}
              </Button>
            ))}
          </div>
        </div>
      ))}
      <Button
        size="sm"
        variant="link"
        onClick={() => {
          localStorage.setItem(NEVER, 'never')
          setNever(true)
        }}
      >
        Never ask such things
      </Button>
    </section>
  )
}
