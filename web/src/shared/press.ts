/** What acts when it is clicked. */
const CLICKED = 'button, a, label, summary, [role="button"], [role="option"], [role="menuitem"], [role="tab"]'
/** A release that goes unseen, outside the window for instance, must not hold the page for good. */
const LONGEST_MS = 2000

let held: Promise<void> | null = null
let letGo: () => void = () => {}

/**
 * Waits until nothing is being pressed that acts when it is clicked. A browser drops a click whose button moved away
 * between pressing and releasing it; leaving a field for a button sends what was typed, and the answer may add or take
 * lines above that button. So nothing the server says is drawn before the button is released and has acted.
 */
export function released(): Promise<void> {
  return held ?? Promise.resolve()
}

window.addEventListener(
  'pointerdown',
  (event) => {
    if (held || event.button > 0 || !(event.target as Element | null)?.closest?.(CLICKED)) return
    held = new Promise((resolve) => {
      const limit = window.setTimeout(() => letGo(), LONGEST_MS)
      letGo = () => {
        window.clearTimeout(limit)
        letGo = () => {}
        held = null
        resolve()
      }
    })
  },
  true,
)
// The click itself comes in the same turn, after the release.
const end = () => void setTimeout(() => letGo())
window.addEventListener('pointerup', end, true)
window.addEventListener('pointercancel', end, true)
window.addEventListener('blur', end)
