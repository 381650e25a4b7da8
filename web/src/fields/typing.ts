/** Reports whether a key goes to a field, a control or a dialog, so that it is no shortcut. */
export function isTyping(event: KeyboardEvent, alsoButtons = false): boolean {
  const inside = `input, select, textarea, [role="dialog"]${alsoButtons ? ', button' : ''}`
  return (event.target as HTMLElement).closest(inside) !== null
}
