/**
 * Makes JSON safe within a script element of HTML, and as JavaScript: no character can end the element, open another or a
 * comment, or be a line end.
 *
 * @param json text in which these characters stand within texts alone
 */
export function escapeForScript(json: string): string {
  return json.replace(/[<>&\u2028\u2029]/g, (each) => `\\u${each.charCodeAt(0).toString(16).padStart(4, '0')}`)
}

const REFERENCES: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
}

/** Makes a text safe within an element or an attribute of HTML. */
export function escapeForHtml(text: string): string {
  return text.replace(/[&<>"']/g, (each) => REFERENCES[each]!)
}
