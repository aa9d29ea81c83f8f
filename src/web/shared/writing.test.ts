import { expect, test } from "vitest";
import data from "../../GoldenRule.Core/Languages/writing.json";

const languages: Record<string, { decimal: string; group: string; from: number; before: number; direction: string }> = data.languages;

/** The core's way to write a number, from its data alone. */
function written(tag: string, whole: string, decimals: string): string {
  const { decimal, group, from, before } = languages[tag] ?? { decimal: ".", group: ",", from: 4, before: 3 };
  let grouped = "";
  for (const [i, digit] of [...whole].entries()) {
    const left = whole.length - i;
    grouped += (i > 0 && whole.length >= from && left >= 3 && (left - 3) % before === 0 ? group : "") + digit;
  }
  return `${grouped}${decimal}${decimals}`;
}

/** Unicode CLDR, by the Intl of the Node.js that runs this: signs that have not changed in years. */
test.each(["en", "cy", "de", "es", "it", "nl", "pl", "hi", "ar", "he"])("the core writes numbers in %s as the CLDR does", (tag) => {
  const format = new Intl.NumberFormat(tag, { numberingSystem: "latn", minimumFractionDigits: 2 });
  for (const whole of ["7", "812", "1234", "12345", "123456", "1234567"]) {
    expect(written(tag, whole, "50")).toBe(format.format(Number(`${whole}.5`)));
  }
});

test.each([
  ["ar", "rtl"],
  ["he", "rtl"],
  ["fa", "rtl"],
  ["ur", "rtl"],
  ["en", "ltr"],
  ["ja", "ltr"],
])("%s runs %s", (tag, direction) => expect(languages[tag]?.direction).toBe(direction));
