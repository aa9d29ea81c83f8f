import { expect, test } from "vitest";
import data from "../../GoldenRule.Core/Languages/date-words.json";

const languages: Record<string, { form: string; weekdays: string[]; alone: string[] }> = data.languages;

/** Unicode CLDR, by the Intl of the Node.js that runs this: names that have not changed in years, in languages the desk offers. */
test.each(["en", "cy", "gd", "fr", "de", "es", "it", "nl", "pl"])("the core names days and months in %s as the CLDR does", (tag) => {
  const words = languages[tag];
  const options = { timeZone: "UTC", calendar: "gregory", numberingSystem: "latn" } as const;
  const named = (form: Intl.DateTimeFormatOptions, at: Date) => new Intl.DateTimeFormat(tag, { ...options, ...form }).format(at);
  // 2027-08-01 is a Sunday.
  expect(words?.weekdays).toEqual(Array.from({ length: 7 }, (_, day) => named({ weekday: "long" }, new Date(Date.UTC(2027, 7, 1 + day)))));
  expect(words?.alone).toEqual(Array.from({ length: 12 }, (_, month) => named({ month: "long" }, new Date(Date.UTC(2027, month, 15)))));
});

test("every language says where day, month, year and the day of the week stand, each once", () => {
  expect(Object.keys(languages).length).toBeGreaterThan(100);
  for (const { form } of Object.values(languages)) {
    for (const part of ["{day}", "{month}", "{year}", "{weekday}"]) expect(form.split(part).length).toBe(2);
  }
});
