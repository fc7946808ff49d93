import { ref } from 'vue'

/** The practice's day, as the server has it: year, month and day; empty before somebody has signed in. */
export const today = ref('')
