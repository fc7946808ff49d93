import { shallowRef } from 'vue'
import type { ReturnStore } from './returnStore'

/** The return that is open on screen, for the search of the top bar. */
export const openReturn = shallowRef<ReturnStore | null>(null)
