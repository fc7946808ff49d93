/**
 * Puts the cursor into a field as soon as it is there. Not later: a field that takes the focus while somebody already
 * types in another one would get the other's text.
 */
export const vFocus = {
  mounted: (element: HTMLElement) => (element.querySelector('input') ?? element).focus(),
}
