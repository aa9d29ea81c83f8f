const systems: [RegExp, string][] = [
  [/iPhone|iPad/, "iOS"],
  [/Android/, "Android"],
  [/Windows/, "Windows"],
  [/Mac OS X/, "macOS"],
  [/CrOS/, "ChromeOS"],
  [/Linux/, "Linux"],
];

// Browsers call themselves after others too: the most particular name comes first.
const browsers: [RegExp, string][] = [
  [/Edg\//, "Edge"],
  [/OPR\//, "Opera"],
  [/Firefox\//, "Firefox"],
  [/Chrome\/|Chromium\//, "Chrome"],
  [/Safari\//, "Safari"],
];

/** What a browser calls itself, as people call it: "Firefox on Windows". */
export function browserInWords(agent: string): string {
  const named = (all: [RegExp, string][]) => all.find(([mark]) => mark.test(agent))?.[1];
  const [browser, system] = [named(browsers), named(systems)];
  return browser ? `${browser}${system ? ` on ${system}` : ""}` : agent || "A program that says no name";
}
