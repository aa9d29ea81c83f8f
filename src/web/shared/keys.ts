const mac = /mac|iphone|ipad/i.test(navigator.userAgent);

const signs: Record<string, string> = mac ? { Ctrl: "⌘", Alt: "⌥", Shift: "⇧", Enter: "↩", Delete: "⌫" } : {};

/** The name of a key as the person's system writes it. */
export const keyName = (key: string) => signs[key] ?? key;

/** Keys pressed together: "Ctrl Shift Z", "⌘ ⇧ Z". */
export const keyNames = (...keys: string[]) => keys.map(keyName).join(" ");
