/**
 * Compiled HTML as readers of one colour scheme see it: the question of the scheme is answered in the text, so that a
 * proof does not depend on the scheme of whoever looks.
 */
export const asScheme = (html: string, dark: boolean) => html.replaceAll("(prefers-color-scheme:dark)", dark ? "all" : "not all");
