import Mustache from "mustache";

/**
 * The npm package mustache, the reference of mustache(5) in JavaScript. It escapes as the Mustache specification has it
 * ("interpolation": & " < >); the package escapes four characters more by itself.
 */
Mustache.escape = (text: string) => text.replaceAll("&", "&amp;").replaceAll('"', "&quot;").replaceAll("<", "&lt;").replaceAll(">", "&gt;");

export { Mustache };
