import { defineStore } from 'pinia'
import { api, call, useToken, type Schemas } from './api/client'

/** Who is signed in, and what the page needs to know before anything else. */
export const useSession = defineStore('session', {
  state: () => ({ view: null as Schemas['SessionView'] | null }),
  getters: {
    person: (state) => state.view?.person ?? null,
    isApprover: (state) => state.view?.person?.role === 'approver',
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
    },
    async signIn(email: string, password: string) {
      await call(api.POST('/api/session/sign-in', { body: { email, password } }))
      await this.load()
    },
    async signOut() {
      await call(api.POST('/api/session/sign-out'))
      await this.load()
    },
  },
})
