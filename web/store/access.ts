import type { WhoAmI } from '../../core/rules/answers.ts'
import { api, useSessionQuery, useShareQuery } from './api.ts'
import { store } from './store.ts'

/** Whether somebody may change a plan; who has not answered yet is taken for who sits at the server. */
const mayChangeAs = (who: WhoAmI | undefined, plan: string): boolean => {
  if (!who) return true
  const role = who.plans[plan] ?? who.role
  return role === 'owner' || role === 'editor'
}

/** Whether this page may change a plan. */
export const mayChange = (plan: string): boolean =>
  mayChangeAs(api.endpoints.session.select()(store.getState()).data, plan)

export function useMayChange(plan: string): boolean {
  const { data } = useSessionQuery()
  return mayChangeAs(data, plan)
}

/** Address of a plan's bench page as others reach it; none where nobody else does. */
export function useSharedLink(plan: string | undefined): string | undefined {
  const isLocal = /^(localhost|127\.0\.0\.1|\[?::1\]?)$/.test(location.hostname)
  const { data } = useShareQuery(plan ?? '', { skip: plan === undefined || !isLocal })
  const base = isLocal ? data?.addresses[0] : location.origin
  return base === undefined || plan === undefined ? undefined : `${base}/plan/${plan}/bench`
}
