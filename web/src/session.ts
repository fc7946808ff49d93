import { defineStore } from 'pinia'
import { api, call, useToken, type Schemas } from './api/client'
import { today } from './shared/today'

/** Who is signed in, and what the page needs to know before anything else. */
export const useSession = defineStore('session', {
  state: () => ({ view: null as Schemas['SessionView'] | null }),
  getters: {
    person: (state) => state.view?.person ?? null,
    mayPrepare: (state) => state.view?.person?.mayPrepare ?? false,
    mayApprove: (state) => state.view?.person?.mayApprove ?? false,
    mayManage: (state) => state.view?.person?.mayManage ?? false,
    mayAdminister: (state) => state.view?.person?.mayAdminister ?? false,
    initials: (state) =>
      (state.view?.person?.name ?? '')
        .split(/[\s-]+/)
        .map((part) => part[0])
        .slice(0, 2)
        .join(''),
  },
  actions: {
    async load() {
      this.view = await call(api.GET('/api/session'))
      useToken(this.view.token)
      today.value = this.view.today
    },
    /** Signs in; false when the account also asks for a one-time code. */
    async signIn(email: string, password: string, code: string | null): Promise<boolean> {
      const answer = await call(api.POST('/api/session/sign-in', { body: { email, password, code } }))
      if (!answer.codeNeeded) await this.load()
      return !answer.codeNeeded
    },
    /** The person has read which attempts to sign in were refused. */
    async seenRefused() {
      await call(api.POST('/api/session/refused-seen'))
      if (this.view) this.view = { ...this.view, refused: null }
    },
    async signOut() {
      await call(api.POST('/api/session/sign-out'))
      await this.load()
    },
  },
})
